import { EventKind } from "../gcode/moves";
import { succeed } from "../result";
import { plainNumber } from "../units";
import { Setting } from "./setting";

export const bedTemperature: Setting = {
  label: "Bed temperature",
  short: "bed",
  unit: "°C",
  lowest: 0,
  highest: 200,
  step: 5,
  decimals: 0,
  whole: true,
  usual: (_, spool) => spool?.bedC ?? 60,
  say: (value) => succeed([`M140 S${plainNumber(value, 0)}`]),
  effective: (value) => Math.round(value),
  hear: (kind, value) => (kind === EventKind.bedTemperature || kind === EventKind.bedTemperatureWait ? value : null),
  tolerance: 0.01,
};
