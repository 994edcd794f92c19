/** The bond between layers: cold melt and much air weld less. */
import { Defect, WIDE_C, WIDE_FAN, above, below, left, lost } from "../defect";

export const bond: Defect = {
  mark: ({ nozzleC, fanPercent }, { bestNozzleC, bestFanPercent }) =>
    left(below(nozzleC, bestNozzleC, WIDE_C), above(fanPercent, bestFanPercent, WIDE_FAN)),
  draw({ faces }, mark, pen) {
    const splits = lost(mark) / 4;
    for (const { fromX, toX, fromZ, toZ } of faces) {
      for (let z = Math.ceil(fromZ / pen.layerMm) * pen.layerMm; z < toZ; z += pen.layerMm) {
        if (pen.noise.even() > 0.55 * splits) continue;
        const from = fromX + (toX - fromX) * 0.6 * pen.noise.even();
        const to = from + (toX - from) * (0.3 + 0.7 * pen.noise.even());
        pen.line({ x: from, z }, { x: to, z }, 0.04 + 0.1 * splits, "dark");
      }
    }
  },
};
