/** Ghosting: the frame swings on behind every edge, the more the harder it was thrown. */
import { Defect, above, left, lost, towards } from "../defect";

export const ghosting: Defect = {
  mark: (laid, truths) =>
    left(
      towards(laid.accelerationMmS2, truths.cleanAccelerationMmS2),
      above(laid.corneringShare, truths.bestCorneringShare, 1.2),
    ),
  draw({ faces, rippleMm }, mark, pen) {
    const strong = lost(mark) / 4;
    if (strong < 0.05) return;
    for (const { fromX, toX, fromZ, toZ, raised } of faces) {
      if (raised) continue;
      // Each ripple is as far from the next as the nozzle comes in one swing, and weaker (invented: by a quarter).
      for (let n = 1, left = strong; left > 0.05 && fromX + n * rippleMm < toX; n++, left *= 0.75) {
        const x = fromX + n * rippleMm;
        pen.line({ x, z: fromZ }, { x, z: toZ }, 0.5 * left, n % 2 === 0 ? "pale" : "dark", 0.7 * left);
      }
    }
  },
};
