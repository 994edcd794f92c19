import { EventKind } from "../gcode/moves";
import { succeed } from "../result";
import { plainNumber } from "../units";
import { Setting } from "./setting";

export const flowFactor: Setting = {
  label: "Flow factor",
  short: "flow",
  unit: "%",
  lowest: 20,
  highest: 200,
  step: 2,
  decimals: 1,
  perTool: true,
  outlives: true,
  // 100 % is what a factor is defined by.
  usual: () => 100,
  say: (value, printer, tool) => succeed([`M221 S${plainNumber(value, 1)}${printer.tools > 1 ? ` T${tool}` : ""}`]),
  effective: (value) => value,
  hear: (kind, value) => (kind === EventKind.flowFactor ? value : null),
  tolerance: 0.06,
};
