import { EventKind } from "../gcode/moves";
import { succeed } from "../result";
import { plainNumber } from "../units";
import { Setting } from "./setting";

export const nozzleTemperature: Setting = {
  label: "Nozzle temperature",
  short: "nozzle",
  unit: "°C",
  lowest: 0,
  highest: 500,
  step: 5,
  decimals: 0,
  whole: true,
  perTool: true,
  // A label gives a range: its middle, on a whole step.
  usual: (_, spool) => (spool ? Math.round((spool.labelMinC + spool.labelMaxC) / 10) * 5 : 200),
  // M104 sets and goes on; M109 would let the nozzle stand and ooze on the piece.
  say: (value, printer, tool) => succeed([`M104 S${plainNumber(value, 0)}${printer.tools > 1 ? ` T${tool}` : ""}`]),
  effective: (value) => Math.round(value),
  hear: (kind, value) =>
    kind === EventKind.nozzleTemperature || kind === EventKind.nozzleTemperatureWait ? value : null,
  tolerance: 0.01,
};
