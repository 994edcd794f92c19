import { dialects } from "../firmware/dialects";
import { EventKind } from "../gcode/moves";
import { succeed } from "../result";
import { Setting } from "./setting";

export const retractionSpeed: Setting = {
  label: "Retraction speed",
  short: "retraction speed",
  unit: "mm/s",
  lowest: 1,
  highest: 200,
  step: 5,
  decimals: 1,
  say(value, printer) {
    if (!printer.firmwareRetraction) return succeed([]);
    const line = dialects[printer.dialect].firmwareRetractionLine({ speedMmS: value });
    return line.ok ? succeed([line.value]) : line;
  },
  insideMoves: (printer) => !printer.firmwareRetraction,
  effective: (value, printer) => Math.min(value, printer.highestFeedEMmS),
  hear: (kind, value) => (kind === EventKind.firmwareRetractSpeed ? value : null),
  measure: ({ retractionMmS }) => retractionMmS,
  tolerance: 0.02,
};
