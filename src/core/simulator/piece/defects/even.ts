/** How even a line stays when its speed changes: by how far the pressure is led or lags. */
import { Defect, Laid, above, below, left, lost } from "../defect";
import type { PieceTruths } from "../truths";

/** Marks lost off the best advance, three at nine tenths of it off (invented). */
export function offAdvance({ pressureAdvance }: Laid, { bestPressureAdvance }: PieceTruths): number {
  if (pressureAdvance === null) return 0;
  const wide = 0.9 * bestPressureAdvance;
  return above(pressureAdvance, bestPressureAdvance, wide) + below(pressureAdvance, bestPressureAdvance, wide);
}

export const even: Defect = {
  mark: (laid, truths) => left(offAdvance(laid, truths)),
  draw({ faces }, mark, pen) {
    const off = lost(mark) / 4;
    for (const { fromX, toX, fromZ, toZ } of faces) {
      const [first, second] = [fromX + (toX - fromX) / 3, fromX + ((toX - fromX) * 2) / 3];
      const high = toZ - fromZ;
      const middle = (fromZ + toZ) / 2;
      pen.line({ x: first, z: middle }, { x: first + 2.5 * off, z: middle }, high * (1 + off), "own");
      pen.line({ x: second, z: toZ }, { x: second + 5 * off, z: toZ }, high * 0.8 * off, "hole");
      pen.line({ x: second, z: fromZ }, { x: second + 5 * off, z: fromZ }, high * 0.8 * off, "hole");
    }
  },
};
