/** Corners: soft ones round off and warp, fast ones are cut, badly pressed ones bulge. */
import { Defect, WIDE_FAN, above, below, left, lost, towards } from "../defect";
import { offAdvance } from "./even";

export const corners: Defect = {
  mark: (laid, truths) =>
    left(
      below(laid.fanPercent, truths.bestFanPercent, WIDE_FAN),
      towards(laid.speedMmS, truths.cleanSpeedMmS),
      above(laid.corneringShare, truths.bestCorneringShare, 1.2),
      offAdvance(laid, truths),
    ),
  draw({ edges, fromMm, toMm }, mark, pen) {
    const off = lost(mark) / 4;
    for (const { x, side } of edges) {
      for (let z = fromMm + 0.3; z < toMm; z += 0.6) {
        if (pen.noise.even() > off * 1.3) continue;
        pen.dot({ x: x + side * 0.1, z }, 0.15 + 0.35 * off * pen.noise.even(), "own");
      }
    }
  },
};
