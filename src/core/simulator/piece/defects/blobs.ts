/** Blobs: where a slow corner, a late retraction or too much material leaves some behind. */
import { Defect, WIDE_FLOW, above, below, left, lost } from "../defect";
import { neededMm } from "./strings";
import { offAdvance } from "./even";

export const blobs: Defect = {
  mark: (laid, truths) =>
    left(
      above(laid.flowShare, 1, WIDE_FLOW),
      below(laid.corneringShare, truths.bestCorneringShare, 1.2),
      above(laid.retractionMm / neededMm(laid, truths), 1.5, 2),
      offAdvance(laid, truths),
    ),
  draw({ edges, fromMm, toMm }, mark, pen) {
    for (const { x, side } of edges) {
      const count = Math.round((lost(mark) ** 1.5 * (toMm - fromMm)) / 6);
      for (let i = 0; i < count; i++) {
        const z = fromMm + (toMm - fromMm) * pen.noise.even();
        pen.dot({ x: x + side * 0.15, z }, 0.2 + 0.12 * lost(mark) * pen.noise.even(), "pale");
      }
    }
  },
};
