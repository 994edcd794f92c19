/** How likely an eye gives a mark to something that is so good: with noise and strictness of its own, and once in a while by a slip. */
import type { CriterionKey } from "..";
import { HIGHEST_MARK, Mark, Use } from "../criterion";
import type { BandOnPiece, GivenMark } from "../score";
import { normalBelow } from "./chance";

/** Quality in tenths of a mark, from 0 to 4. */
export const QUALITY_BINS = HIGHEST_MARK * 10 + 1;
export const binOf = (quality: number) => Math.round(Math.min(HIGHEST_MARK, Math.max(0, quality)) * 10);

/** One answer in so many is a slip: any of the five. Common practice, no source. */
const SLIP = 0.03;

/** How an eye looks: how much it gives too much, and how far two of its looks differ, in marks. */
export interface Eye {
  bias: number;
  spread: number;
}

/** The logarithm of an answer's chance by quality (QUALITY_BINS of them), for each of the five marks. */
export function answersOf({ bias, spread }: Eye): Float64Array[] {
  const below = (edge: number, quality: number) => normalBelow((edge - quality - bias) / spread);
  return Array.from({ length: HIGHEST_MARK + 1 }, (_, mark) =>
    Float64Array.from({ length: QUALITY_BINS }, (_, bin) => {
      const quality = bin / 10;
      const high = mark === HIGHEST_MARK ? 1 : below(mark + 0.5, quality);
      const low = mark === 0 ? 0 : below(mark - 0.5, quality);
      return Math.log((1 - SLIP) * Math.max(0, high - low) + SLIP / (HIGHEST_MARK + 1));
    }),
  );
}

/** What one reader said of one place in one respect. */
export interface Answer {
  reader: number;
  /** Which of the places. */
  place: number;
  mark: Mark;
}

/** The answers in each respect; what nobody can tell, and what was given of bands that do not count, says nothing. */
export function answersIn(
  counting: readonly BandOnPiece[],
  readers: readonly (readonly GivenMark[])[],
  uses: readonly Use<CriterionKey>[],
): Answer[][] {
  const placeOf = new Map(counting.map(({ band }, place) => [band, place]));
  const criterionOf = new Map(uses.map(({ key }, i) => [key, i]));
  const answers: Answer[][] = uses.map(() => []);
  readers.forEach((marks, reader) => {
    for (const { band, criterion, mark } of marks) {
      const place = placeOf.get(band);
      const i = criterionOf.get(criterion);
      if (mark !== null && place !== undefined && i !== undefined) answers[i].push({ reader, place, mark });
    }
  });
  return answers;
}
