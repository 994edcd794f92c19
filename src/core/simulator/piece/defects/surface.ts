/** The surface: cold melt tears, fast lines starve, too much of it scars. */
import { Defect, WIDE_C, WIDE_FAN, WIDE_FLOW, above, below, left, lost, towards } from "../defect";

export const surface: Defect = {
  mark: (laid, truths) =>
    left(
      below(laid.nozzleC, truths.bestNozzleC, WIDE_C),
      above(laid.fanPercent, truths.bestFanPercent, WIDE_FAN),
      towards(laid.speedMmS, truths.cleanSpeedMmS),
      above(laid.flowShare, 1, WIDE_FLOW),
    ),
  draw({ faces }, mark, pen) {
    for (const { fromX, toX, fromZ, toZ } of faces) {
      const count = Math.round((toX - fromX) * (toZ - fromZ) * 0.16 * lost(mark) ** 1.5);
      for (let i = 0; i < Math.min(400, count); i++) {
        const x = fromX + (toX - fromX) * pen.noise.even();
        const z = fromZ + (toZ - fromZ) * pen.noise.even();
        const long = Math.min(toX - x, 0.3 + 1.4 * pen.noise.even());
        pen.line({ x, z }, { x: x + long, z }, 0.12, i % 2 === 0 ? "dark" : "pale");
      }
    }
  },
};
