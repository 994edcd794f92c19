import { dialects } from "../machine/dialects";
import { EventKind } from "../gcode/moves";
import { deviationForJerkMm } from "../motion/cornering";
import { refuse, succeed } from "../result";
import { plainNumber } from "../units";
import { Setting } from "./setting";

export const jerk: Setting = {
  label: "Jerk",
  short: "jerk",
  unit: "mm/s",
  lowest: 0.1,
  highest: 100,
  step: 1,
  decimals: 2,
  outlives: true,
  stored: true,
  usual: (printer) => printer.jerkMmS,
  say(value, printer) {
    const dialect = dialects[printer.dialect];
    if (dialect.cornering !== "jerk") {
      const same = deviationForJerkMm(value, printer.printAccelerationMmS2);
      return refuse(
        `${printer.name} corners by junction deviation, not by jerk. About the same as jerk ${plainNumber(value, 2)} mm/s is a deviation of ${plainNumber(same, 4)} mm.`,
      );
    }
    const line = dialect.corneringLine(value);
    return line.ok ? succeed([line.value]) : line;
  },
  effective: (value) => value,
  hear: (kind, value) => (kind === EventKind.jerkX ? value : null),
  tolerance: 0.006,
};
