/** Strings: whatever was not drawn back far enough oozes; hotter melt oozes sooner. */
import { Defect, Laid, WIDE_C, above, left, lost } from "../defect";
import type { PieceTruths } from "../truths";

/** A degree above the best wants so much more drawing back, as a share; another speed wants more as well (invented). */
const MORE_PER_C = 0.015;
const MORE_OFF_SPEED = 0.8;

/** The retraction that leaves next to nothing at this temperature and speed, mm. */
export function neededMm({ nozzleC, retractionMmS }: Laid, truths: PieceTruths): number {
  const hotter = 1 + MORE_PER_C * Math.max(0, nozzleC - truths.bestNozzleC);
  const off = (retractionMmS - truths.bestRetractionMmS) / truths.bestRetractionMmS;
  return truths.cleanRetractionMm * hotter * (1 + MORE_OFF_SPEED * off * off);
}

export const strings: Defect = {
  mark: (laid, truths) =>
    left(
      Math.max(0, 1 - 3 * (laid.retractionMm / neededMm(laid, truths) - 1)),
      above(laid.nozzleC, truths.bestNozzleC, WIDE_C),
    ),
  draw({ gaps }, mark, pen) {
    for (const { fromX, toX, z } of gaps) {
      const count = Math.round((lost(mark) ** 1.7 * (1 + pen.noise.even())) / 2);
      for (let i = 0; i < count; i++) {
        const [z0, z1] = [z + pen.noise.bell(0.7), z + pen.noise.bell(0.7)];
        const sag = Math.abs(pen.noise.bell(0.5)) + (toX - fromX) * 0.02;
        const middle = { x: (fromX + toX) / 2, z: (z0 + z1) / 2 - 2 * sag };
        pen.curve({ x: fromX, z: z0 }, middle, { x: toX, z: z1 }, 0.07 + 0.05 * lost(mark) * pen.noise.even(), "pale");
      }
    }
  },
};
