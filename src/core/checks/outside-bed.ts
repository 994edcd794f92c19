import { laysMaterial } from "../gcode/moves";
import { outsideBedMm } from "../shelf/printer";
import { plainNumber } from "../units";
import { Check, Finding } from "./finding";

/** Material or travel outside the bed, or above the highest Z. Round beds too. */
export const outsideBed: Check = {
  key: "outside-bed",
  passes: "Everything stays on the bed.",
  run({ tables: { moves }, printer }) {
    let worst = 0.01;
    let at = -1;
    let tooHigh = printer.buildHeightMm + 0.001;
    let highAt = -1;
    for (let i = 0; i < moves.count; i++) {
      if (!laysMaterial(moves.kind[i])) continue;
      const outside = outsideBedMm(printer, moves.x[i], moves.y[i]);
      if (outside > worst) {
        worst = outside;
        at = i;
      }
      if (moves.z[i] > tooHigh) {
        tooHigh = moves.z[i];
        highAt = i;
      }
    }
    const findings: Finding[] = [];
    if (at >= 0) {
      findings.push({
        check: "outside-bed",
        severity: "stop",
        where: `line ${moves.line[at] + 1}`,
        message: `At X${plainNumber(moves.x[at], 1)} Y${plainNumber(moves.y[at], 1)} the print runs ${plainNumber(worst, 1)} mm off the bed of ${printer.name}. Choose a printer with a larger bed, or check its origin.`,
        mend: { label: "Look at the printer", open: "printer" },
      });
    }
    if (highAt >= 0) {
      findings.push({
        check: "outside-bed",
        severity: "stop",
        where: `line ${moves.line[highAt] + 1}`,
        message: `The piece is ${plainNumber(tooHigh, 1)} mm high; ${printer.name} reaches ${plainNumber(printer.buildHeightMm, 1)} mm. Take bands out or make them lower.`,
      });
    }
    return findings;
  },
};
