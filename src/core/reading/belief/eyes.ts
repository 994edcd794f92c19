/** What the readers' eyes are like: their strictness and noise, from where they differ from what all of them say together. */
import { Answer, Eye } from "./answers";

/** Two looks at the same thing differ by half a mark or so. From memory of reading such pieces, no source. */
export const USUAL_SPREAD = 0.5;
/** So many looks' worth the usual spread counts beside what was seen. */
const SPREAD_LOOKS = 8;
/** Readers are so much stricter or milder than one another, in marks. Common practice, no source. */
export const BIAS_SPREAD = 0.3;
const SMALLEST_SPREAD = 0.3;
const LARGEST_SPREAD = 2;
/** A curve takes about so many of the answers it is laid through. */
const FREEDOM_A_CURVE = 3;

/**
 * @param criteria the answers in each respect
 * @param expected what all readers together make of a place in a respect, in marks
 */
export function eyesOf(
  readers: number,
  criteria: readonly (readonly Answer[])[],
  expected: (criterion: number, place: number) => number,
): Eye[] {
  const all = criteria.reduce((sum, answers) => sum + answers.length, 0);
  const taken = Math.min(0.7, (FREEDOM_A_CURVE * criteria.length) / Math.max(1, all));
  const eyes = Array.from({ length: readers }, (_, reader) => {
    const off = criteria.flatMap((answers, criterion) =>
      answers.flatMap((one) => (one.reader === reader ? [one.mark - expected(criterion, one.place)] : [])),
    );
    const shrink = (USUAL_SPREAD / BIAS_SPREAD) ** 2;
    const bias = off.reduce((sum, one) => sum + one, 0) / (off.length + shrink);
    const squares = off.reduce((sum, one) => sum + (one - bias) ** 2, 0) / (1 - taken);
    const spread = Math.sqrt((SPREAD_LOOKS * USUAL_SPREAD ** 2 + squares) / (SPREAD_LOOKS + off.length));
    return { bias, spread: Math.min(LARGEST_SPREAD, Math.max(SMALLEST_SPREAD, spread)) };
  });
  // What all have in common is no strictness that could be seen.
  const common = eyes.reduce((sum, { bias }) => sum + bias, 0) / Math.max(1, readers);
  return eyes.map(({ bias, spread }) => ({ bias: bias - common, spread }));
}
