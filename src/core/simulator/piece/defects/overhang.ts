/** Overhangs droop and curl where they stay soft too long. */
import { Defect, WIDE_C, WIDE_FAN, above, below, left, lost } from "../defect";

export const overhang: Defect = {
  mark: ({ nozzleC, fanPercent }, { bestNozzleC, bestFanPercent }) =>
    left(above(nozzleC, bestNozzleC, WIDE_C), below(fanPercent, bestFanPercent, WIDE_FAN)),
  draw({ lips }, mark, pen) {
    const droops = lost(mark) / 4;
    for (const { x, z, side } of lips) {
      if (pen.noise.even() > droops * 1.4) continue;
      const out = (0.2 + 0.9 * pen.noise.even()) * droops;
      const ends = { x: x - side * 0.6, z: z - 0.3 - 1.1 * droops * pen.noise.even() };
      pen.curve({ x: x - side * 0.2, z }, { x: x + side * out, z: z - out }, ends, 0.25 + 0.3 * droops, "own");
    }
  },
};
