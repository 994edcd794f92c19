import { dialects } from "../machine/dialects";
import { EventKind } from "../gcode/moves";
import { jerkForDeviationMmS } from "../motion/cornering";
import { refuse, succeed } from "../result";
import { plainNumber } from "../units";
import { Setting } from "./setting";

export const junctionDeviation: Setting = {
  label: "Junction deviation",
  short: "deviation",
  unit: "mm",
  lowest: 0.001,
  highest: 1,
  step: 0.005,
  decimals: 4,
  outlives: true,
  stored: true,
  usual: (printer) => printer.junctionDeviationMm,
  say(value, printer) {
    const dialect = dialects[printer.dialect];
    if (dialect.cornering !== "junctionDeviation") {
      const same = jerkForDeviationMmS(value, printer.printAccelerationMmS2);
      return refuse(
        `${printer.name} corners by jerk, not by junction deviation. About the same as a deviation of ${plainNumber(value, 4)} mm is jerk ${plainNumber(same, 2)} mm/s.`,
      );
    }
    const line = dialect.corneringLine(value);
    return line.ok ? succeed([line.value]) : line;
  },
  effective: (value) => value,
  hear: (kind, value) => (kind === EventKind.junctionDeviation ? value : null),
  tolerance: 0.0001,
};
