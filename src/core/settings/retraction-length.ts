import { dialects } from "../firmware/dialects";
import { EventKind } from "../gcode/moves";
import { succeed } from "../result";
import { Setting } from "./setting";

export const retractionLength: Setting = {
  label: "Retraction length",
  short: "retraction",
  unit: "mm",
  lowest: 0,
  highest: 20,
  step: 0.5,
  decimals: 2,
  say(value, printer) {
    if (!printer.firmwareRetraction) return succeed([]);
    const line = dialects[printer.dialect].firmwareRetractionLine({ lengthMm: value });
    return line.ok ? succeed([line.value]) : line;
  },
  insideMoves: (printer) => !printer.firmwareRetraction,
  effective: (value) => value,
  hear: (kind, value) => (kind === EventKind.firmwareRetractLength ? value : null),
  measure: ({ retractionMm }) => retractionMm,
  tolerance: 0.002,
};
