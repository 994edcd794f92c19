/** The topmost layer: ridges with too much material, furrows with too little. */
import { Defect, WIDE_FLOW, above, below, left, lost } from "../defect";

export const top: Defect = {
  mark: ({ flowShare }) => left(above(flowShare, 1, WIDE_FLOW), below(flowShare, 1, WIDE_FLOW)),
  draw({ faces, toMm }, mark, pen) {
    for (const { fromX, toX, toZ } of faces) {
      if (toZ < toMm - 0.01) continue;
      for (let x = fromX + 0.4; x < toX; x += 0.8) {
        if (pen.noise.even() > lost(mark) / 4) continue;
        pen.dot({ x, z: toZ }, 0.1 + 0.06 * lost(mark), "own");
      }
    }
  },
};
