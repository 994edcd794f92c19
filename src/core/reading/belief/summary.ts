/** What draws of a belief say altogether: quantiles, chances, places that look good, and the answer that would tell most. */
import { Answer, answersOf, binOf, Eye } from "./answers";
import { HIGHEST_MARK } from "../criterion";

/** The value that so large a share of sorted ones lies below. */
export function quantile(sorted: ArrayLike<number>, share: number): number {
  const at = share * (sorted.length - 1);
  const low = Math.floor(at);
  const high = Math.min(sorted.length - 1, low + 1);
  return sorted[low] + (at - low) * (sorted[high] - sorted[low]);
}

/** The share of some numbers that count. */
export function shareOf(all: Float64Array, counts: (one: number) => boolean): number {
  return all.reduce((sum, one) => sum + (counts(one) ? 1 : 0), 0) / all.length;
}

export interface Cluster {
  from: number;
  to: number;
  /** The middle one. */
  at: number;
  share: number;
}

/** A gap without draws as wide as this parts two places that look good. */
const GAP = 0.22;
/** Fewer draws than this are no place of their own. */
const LEAST_SHARE = 0.12;

/** Places at which draws lie together, the largest first. */
export function clustersOf(sorted: Float64Array): Cluster[] {
  const clusters: Cluster[] = [];
  const lonely = Math.max(1, Math.round(sorted.length * LONELY_SHARE));
  let first = 0;
  for (let i = 1; i <= sorted.length; i++) {
    // A handful of draws between two places does not join them.
    if (i < sorted.length && sorted[Math.min(sorted.length - 1, i + lonely)] - sorted[i - 1] < GAP) continue;
    const own = sorted.subarray(first, i);
    if (own.length >= sorted.length * LEAST_SHARE) {
      clusters.push({
        from: own[0],
        to: own[own.length - 1],
        at: quantile(own, 0.5),
        share: own.length / sorted.length,
      });
    }
    first = i;
  }
  return clusters.sort((a, b) => b.share - a.share);
}

const LONELY_SHARE = 0.01;

/** One answer that nobody gave yet. */
export interface Question {
  criterion: number;
  place: number;
}

/**
 * By how much each question would narrow where it is best: the variance now less the variance to be expected after it (the law of total
 * variance), over the five answers that may come.
 *
 * @param qualities of each question by draw @param eye who would answer
 */
export function tellingOf(best: Float64Array, qualities: readonly ArrayLike<number>[], eye: Eye): number[] {
  const chances = answersOf(eye).map((logs) => logs.map(Math.exp));
  const draws = best.length;
  const mean = best.reduce((sum, one) => sum + one, 0) / draws;
  return qualities.map((own) => {
    let between = 0;
    for (let mark = 0; mark <= HIGHEST_MARK; mark++) {
      let weight = 0;
      let sum = 0;
      for (let draw = 0; draw < draws; draw++) {
        const chance = chances[mark][binOf(own[draw])];
        weight += chance;
        sum += chance * best[draw];
      }
      if (weight > 0) between += (weight / draws) * (sum / weight - mean) ** 2;
    }
    return between;
  });
}

/** Two readers who say the opposite, and where most. */
export interface Contradiction {
  criterion: number;
  place: number;
}

/** From so far on, in marks, two readers' marks are more than noise apart. Common practice, no source. */
const CONTRADICTS = 1.5;
const FEWEST_COMMON = 4;

/** Where readers contradict each other; null where they do not. Strictness is none: what all their marks differ by is taken off first. */
export function contradictionIn(criteria: readonly (readonly Answer[])[], readers: number): Contradiction | null {
  for (let one = 0; one < readers; one++) {
    for (let other = one + 1; other < readers; other++) {
      const common = criteria.flatMap((answers, criterion) => {
        const others = new Map(answers.flatMap((b) => (b.reader === other ? [[b.place, b.mark] as const] : [])));
        return answers.flatMap(({ reader, place, mark }) => {
          const against = reader === one ? others.get(place) : undefined;
          return against === undefined ? [] : [{ criterion, place, by: mark - against }];
        });
      });
      if (common.length < FEWEST_COMMON) continue;
      const mean = common.reduce((sum, { by }) => sum + by, 0) / common.length;
      const spread = Math.sqrt(common.reduce((sum, { by }) => sum + (by - mean) ** 2, 0) / common.length);
      if (spread < CONTRADICTS) continue;
      const { criterion, place } = common.reduce((worst, now) =>
        Math.abs(now.by - mean) > Math.abs(worst.by - mean) ? now : worst,
      );
      return { criterion, place };
    }
  }
  return null;
}
