import { dialects } from "../machine/dialects";
import { EventKind } from "../gcode/moves";
import { succeed } from "../result";
import { Setting } from "./setting";

export const acceleration: Setting = {
  label: "Acceleration",
  short: "acceleration",
  unit: "mm/s²",
  lowest: 10,
  highest: 50_000,
  step: 100,
  decimals: 0,
  whole: true,
  outlives: true,
  stored: true,
  usual: (printer) => printer.printAccelerationMmS2,
  say(value, printer) {
    const line = dialects[printer.dialect].accelerationLine(value);
    return line.ok ? succeed([line.value]) : line;
  },
  effective: (value) => Math.round(value),
  hear: (kind, value) => (kind === EventKind.printAcceleration ? value : null),
  tolerance: 0.5,
};
