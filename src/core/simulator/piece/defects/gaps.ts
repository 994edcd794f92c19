/** Gaps: too little material, or melt that was drawn back too far to be there again in time. */
import { Defect, WIDE_FLOW, above, below, left, lost, towards } from "../defect";
import { neededMm } from "./strings";

export const gaps: Defect = {
  mark: (laid, truths) =>
    left(
      below(laid.flowShare, 1, WIDE_FLOW),
      above(laid.retractionMm / neededMm(laid, truths), 1.5, 2),
      towards(laid.speedMmS, truths.cleanSpeedMmS),
    ),
  draw({ faces }, mark, pen) {
    for (const { fromX, toX, fromZ, toZ } of faces) {
      const count = Math.round((toX - fromX) * (toZ - fromZ) * 0.03 * lost(mark) ** 1.6);
      for (let i = 0; i < Math.min(120, count); i++) {
        const x = fromX + (toX - fromX) * pen.noise.even();
        const z = fromZ + (toZ - fromZ) * pen.noise.even();
        pen.line({ x, z }, { x: Math.min(toX, x + 0.2 + 0.9 * pen.noise.even()), z }, 0.2, "hole");
      }
    }
  },
};
