/** From curves to the value a person wants: each draw of a belief says where it is best for what he cares for. */
import { diceOf } from "./chance";
import { BIAS_SPREAD } from "./eyes";
import type { Believed } from "./draws";

/** More than is wanted counts so little: of what is all as wanted, the middle is taken. */
const BEYOND_WANTED = 0.05;
const WANTED = 4;
/** Scores nearer than this are alike: any of them is best. */
const ALIKE = 0.02;

/** A belief seen along a line. */
export interface Seen {
  /** Rising, evenly apart. */
  places: readonly number[];
  /** The score, 0 to 4, by draw and place: `draws × places`. */
  scores: Float32Array;
  /** Where each draw is best; beyond the last place where nothing is. */
  best: Float64Array;
}

/** What is wanted: the highest score, or the first place (from below, or from above) where every must is good. */
export type Wanted = { what: "highest" } | { what: "first"; from: "below" | "above"; bar: number };

/**
 * @param qualities of all curves at the places: `count × places` @param weights of the criteria in the order of the draws @param musts which of them must be good
 */
export function seenAlong(
  qualities: Float32Array,
  { drawn, eyes }: Believed,
  places: readonly number[],
  asked: { weights: readonly number[]; musts: readonly boolean[]; wanted: Wanted },
): Seen {
  const { weights, musts, wanted } = asked;
  const draws = drawn[0]?.length ?? 0;
  const scores = new Float32Array(draws * places.length);
  const must = new Float32Array(places.length);
  const best = new Float64Array(draws);
  const dice = diceOf(SEED);
  const step = places[1] - places[0];
  const all = weights.reduce((sum, weight) => sum + weight, 0);
  // How strict the readers are altogether cannot be seen: it moves the bar.
  const strictness = BIAS_SPREAD / Math.sqrt(Math.max(1, eyes.length));
  for (let draw = 0; draw < draws; draw++) {
    const own = scores.subarray(draw * places.length, (draw + 1) * places.length);
    must.fill(Infinity);
    drawn.forEach((curve, criterion) => {
      const weight = weights[criterion] / all;
      const row = curve[draw] * places.length;
      for (let at = 0; at < places.length; at++) {
        const quality = qualities[row + at];
        own[at] += weight * (quality > WANTED ? WANTED + BEYOND_WANTED * (quality - WANTED) : quality);
        if (musts[criterion] && quality < must[at]) must[at] = quality;
      }
    });
    const bell = dice() + dice() + dice() + dice() - 2;
    best[draw] =
      wanted.what === "highest"
        ? highest(own, places, step, dice)
        : firstGood(must, places, step, wanted, wanted.bar - bell * Math.sqrt(3) * strictness, dice);
  }
  return { places, scores, best };
}

const SEED = 77;

/** Where scores are highest; any of the places that are alike. */
function highest(scores: Float32Array, places: readonly number[], step: number, dice: () => number): number {
  let top = -Infinity;
  for (const score of scores) if (score > top) top = score;
  let alike = 0;
  let chosen = 0;
  for (let at = 0; at < places.length; at++) {
    if (scores[at] < top - ALIKE) continue;
    alike++;
    if (dice() * alike < 1) chosen = at;
  }
  return places[chosen] + (dice() - 0.5) * step;
}

/** The first place, from one end, from which all that must be good is; half a range beyond the other end where nothing is. */
function firstGood(
  must: Float32Array,
  places: readonly number[],
  step: number,
  { from }: { from: "below" | "above" },
  bar: number,
  dice: () => number,
): number {
  const last = places.length - 1;
  for (let i = 0; i <= last; i++) {
    const at = from === "below" ? i : last - i;
    if (must[at] < bar) continue;
    if (i === 0) return places[at];
    return from === "below" ? places[at] - dice() * step : places[at] + dice() * step;
  }
  return from === "below" ? places[last] + NOWHERE : places[0] - NOWHERE;
}

/** A draw in which nothing is good lies so far beyond the last place. */
const NOWHERE = 0.5;
