import { EventKind } from "../gcode/moves";
import { succeed } from "../result";
import { plainNumber } from "../units";
import { Setting } from "./setting";

export const speedFactor: Setting = {
  label: "Speed factor",
  short: "speed factor",
  unit: "%",
  lowest: 10,
  highest: 500,
  step: 10,
  decimals: 0,
  whole: true,
  outlives: true,
  // 100 % is what a factor is defined by.
  usual: () => 100,
  say: (value) => succeed([`M220 S${plainNumber(value, 0)}`]),
  effective: (value) => Math.round(value),
  hear: (kind, value) => (kind === EventKind.speedFactor ? value : null),
  tolerance: 0.01,
};
