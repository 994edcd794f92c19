import { dialects } from "../machine/dialects";
import { EventKind } from "../gcode/moves";
import { succeed } from "../result";
import { roundTo } from "../units";
import { Setting } from "./setting";

export const pressureAdvance: Setting = {
  label: "Pressure advance",
  short: "advance",
  unit: "s",
  lowest: 0,
  highest: 10,
  step: 0.02,
  decimals: 4,
  perTool: true,
  outlives: true,
  stored: true,
  usual: (printer) => printer.pressureAdvanceS,
  say(value, printer, tool) {
    const line = dialects[printer.dialect].pressureAdvanceLine(value, tool);
    return line.ok ? succeed([line.value]) : line;
  },
  effective: (value) => roundTo(value, 4),
  hear: (kind, value) => (kind === EventKind.pressureAdvance ? value : null),
  tolerance: 0.00006,
};
