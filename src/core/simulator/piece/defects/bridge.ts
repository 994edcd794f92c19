/** The underside of a bridge: hot strands without air hang down before they set. */
import { Defect, WIDE_C, WIDE_FAN, WIDE_FLOW, above, below, left, lost } from "../defect";

export const bridge: Defect = {
  mark: ({ nozzleC, fanPercent, flowShare }, { bestNozzleC, bestFanPercent }) =>
    left(
      above(nozzleC, bestNozzleC, WIDE_C),
      below(fanPercent, bestFanPercent, WIDE_FAN),
      above(flowShare, 1.05, WIDE_FLOW),
    ),
  draw({ spans }, mark, pen) {
    for (const { fromX, toX, z } of spans) {
      const strands = Math.round(lost(mark) * 3);
      for (let i = 0; i < strands; i++) {
        const sag = lost(mark) * 0.3 * (0.5 + pen.noise.even()) * Math.min(1, (toX - fromX) / 15);
        const x = fromX + (toX - fromX) * (0.42 + 0.16 * pen.noise.even());
        pen.curve({ x: fromX, z }, { x, z: z - 2 * sag }, { x: toX, z }, 0.3, i % 3 === 0 ? "dark" : "own");
      }
    }
  },
};
