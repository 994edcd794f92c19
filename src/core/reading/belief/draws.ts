/**
 * What is believed of each criterion after all marks: curves, drawn as often as they are likely. Bayes' rule on a grid of curves: a curve's
 * share is its share before times the chance of every answer that was given if it were so.
 */
import { Answer, answersOf, binOf, Eye, QUALITY_BINS } from "./answers";
import { Curves, qualityAt } from "./curves";
import { diceOf } from "./chance";
import { eyesOf, USUAL_SPREAD } from "./eyes";

/** Eyes may be finer or coarser than the usual one: so many times, with these shares before. */
const NOISES = [
  { times: 0.5, share: 0.2 },
  { times: 0.8, share: 0.45 },
  { times: 1.3, share: 0.25 },
  { times: 2.2, share: 0.1 },
];
/** Looks at one piece share its own unevenness: each further reader says so much less. */
const SHARED = 0.06;
/** A noise that is less likely than this is left out. */
const LEAST_SHARE = 0.06;

/** How many times a belief is drawn: shares are true to two of a hundred or so. */
export const DRAWS = 600;

export interface Believed {
  /** For each criterion the curve of each draw: `DRAWS` of them. */
  drawn: Int32Array[];
  eyes: Eye[];
  /** The noise that is believed, in marks, of a single look. */
  spread: number;
}

/** What curves say at places, in tenths of a mark: `places × count`, so that one answer is held against all curves in a row. */
export function binsAt(curves: Curves, places: readonly number[]): Uint8Array {
  const bins = new Uint8Array(curves.count * places.length);
  let at = 0;
  for (const x of places) for (let i = 0; i < curves.count; i++) bins[at++] = binOf(qualityAt(curves, i, x));
  return bins;
}

/**
 * Where many curves are held against many answers, eyes and noise are first judged by one in so many of them. A prime: curves come in runs of
 * even lengths, and one in eight would always be of the same family.
 */
const FEW_ENOUGH = 400_000;
const SOME = 7;

/** What must be good may all come of one cause, and then get better together: so likely before anything was looked at. */
const ALIKE = 0.35;

/**
 * @param bins of the curves at the places (`binsAt`)
 * @param criteria the answers in each respect, at least one each
 * @param musts which of them may be alike: those that all must be good
 * @param isRough one in so many curves is enough: for what is only foreseen
 * @param trust how much of what an answer says is believed, where no curve is like what is really so: below 1 a belief stays wider
 */
export function believe(
  curves: Pick<Curves, "count" | "logPrior">,
  bins: Uint8Array,
  places: number,
  criteria: readonly (readonly Answer[])[],
  {
    readers,
    musts = [],
    trust = 1,
    isRough = false,
  }: { readers: number; musts?: readonly number[]; trust?: number; isRough?: boolean },
): Believed {
  const every = isRough || curves.count * places * criteria.length > FEW_ENOUGH ? SOME : 1;
  const hold = (answers: readonly Answer[], eyes: readonly Eye[], step: number) =>
    sharesOf(curves, bins, places, answersBy(answers, places, eyes, trust), step);
  // What some of the curves share before: one curve for several respects leaves this out less often than one for each.
  const before = Math.log(priorOf(curves, every));
  let eyes: Eye[] = Array.from({ length: readers }, () => ({ bias: 0, spread: USUAL_SPREAD }));
  if (readers > 1) {
    for (let turn = 0; turn < EYE_TURNS; turn++) {
      const means = criteria.map((answers) => meansOf(hold(answers, eyes, every).weights, bins, places));
      eyes = eyesOf(readers, criteria, (criterion, place) => means[criterion][place] / 10);
    }
  }
  /** Each criterion with a curve of its own, or one curve for all musts: in parts that are held one by one. */
  const apart = criteria.map((_, i) => [i]);
  const alike = musts.length > 1 ? [[...musts], ...apart.filter(([i]) => !musts.includes(i))] : null;
  const parted = alike
    ? [
        { parts: apart, share: 1 - ALIKE },
        { parts: alike, share: ALIKE },
      ]
    : [{ parts: apart, share: 1 }];
  const holdAll = (parts: readonly number[][], times: number, step: number) => {
    const noisy = eyes.map(({ bias, spread }) => ({ bias, spread: spread * times }));
    return parts.map((own) =>
      hold(
        own.flatMap((i) => criteria[i]),
        noisy,
        step,
      ),
    );
  };
  const tries = NOISES.flatMap(({ times, share }) =>
    parted.map(({ parts, share: own }) => {
      const found = holdAll(parts, times, every);
      const logShare = Math.log(share * own) + found.reduce((sum, { logChance }) => sum + logChance - before, 0);
      return { times, parts, found, logShare };
    }),
  );
  const most = Math.max(...tries.map(({ logShare }) => logShare));
  const likely = tries
    .map((one) => ({ ...one, share: Math.exp(one.logShare - most) }))
    .filter(({ share }) => share >= LEAST_SHARE);
  const all = likely.reduce((sum, { share }) => sum + share, 0);
  const dice = diceOf(SEED);
  const drawn = criteria.map(() => new Int32Array(DRAWS));
  let from = 0;
  likely.forEach(({ share, found, times, parts }, turn) => {
    const upTo = turn === likely.length - 1 ? DRAWS : Math.min(DRAWS, from + Math.round((share / all) * DRAWS));
    const whole = every === 1 || isRough ? found : holdAll(parts, times, 1);
    parts.forEach(([first, ...others], part) => {
      draw(whole[part].weights, drawn[first].subarray(from, upTo), dice);
      for (const other of others) drawn[other].set(drawn[first].subarray(from, upTo), from);
    });
    from = upTo;
  });
  const times = likely.reduce((sum, one) => sum + (one.share / all) * one.times, 0);
  const spread = (times * eyes.reduce((sum, eye) => sum + eye.spread, 0)) / Math.max(1, readers);
  return { drawn, eyes, spread };
}

/** A name of this file's own: read in the innermost loop. */
const BINS = QUALITY_BINS;
const EYE_TURNS = 2;
const SEED = 20_261;

/** The logarithm of the chance of what was answered at each place, by quality: `places × QUALITY_BINS`. */
function answersBy(answers: readonly Answer[], places: number, eyes: readonly Eye[], trust: number): Float64Array {
  const chances = eyes.map(answersOf);
  const sums = new Float64Array(places * BINS);
  const looks = new Float64Array(places);
  for (const { place } of answers) looks[place]++;
  for (const { reader, place, mark } of answers) {
    const chance = chances[reader][mark];
    const say = trust / (1 + SHARED * (looks[place] - 1));
    for (let bin = 0; bin < BINS; bin++) sums[place * BINS + bin] += say * chance[bin];
  }
  return sums;
}

/**
 * Each curve's share after the answers, adding to 1, and the logarithm of the chance of these answers altogether.
 *
 * @param every 1, or so much fewer of the curves
 */
function sharesOf(
  { count, logPrior }: Pick<Curves, "count" | "logPrior">,
  bins: Uint8Array,
  places: number,
  answers: Float64Array,
  every: number,
): { weights: Float64Array; logChance: number } {
  const weights = new Float64Array(count);
  for (let i = 0; i < count; i += every) weights[i] = logPrior[i];
  for (let place = 0; place < places; place++) {
    const chances = answers.subarray(place * BINS, (place + 1) * BINS);
    // Only places that were looked at say anything.
    if (chances[0] === 0) continue;
    const row = place * count;
    for (let i = 0; i < count; i += every) weights[i] += chances[bins[row + i]];
  }
  let most = -Infinity;
  for (let i = 0; i < count; i += every) if (weights[i] > most) most = weights[i];
  let all = 0;
  for (let i = 0; i < count; i += every)
    all += weights[i] = weights[i] < most - FARTHEST ? 0 : Math.exp(weights[i] - most);
  for (let i = 0; i < count; i += every) weights[i] /= all;
  return { weights, logChance: most + Math.log(all) };
}

/** A curve that is e²⁵ times less likely than the best counts for nothing. */
const FARTHEST = 25;

/** What one in so many of the curves share before anything was looked at: 1 for all of them. */
function priorOf({ count, logPrior }: Pick<Curves, "count" | "logPrior">, every: number): number {
  let sum = 0;
  for (let i = 0; i < count; i += every) sum += Math.exp(logPrior[i]);
  return sum;
}

function meansOf(weights: Float64Array, bins: Uint8Array, places: number): Float64Array {
  const means = new Float64Array(places);
  for (let i = 0; i < weights.length; i++) {
    if (weights[i] === 0) continue;
    for (let place = 0; place < places; place++) means[place] += weights[i] * bins[place * weights.length + i];
  }
  return means;
}

/** Draws by shares, as evenly as can be (systematic sampling), in an order of its own. */
function draw(weights: Float64Array, into: Int32Array, dice: () => number): void {
  const step = 1 / into.length;
  let next = dice() * step;
  let sum = 0;
  let at = 0;
  for (let i = 0; i < weights.length && at < into.length; i++) {
    sum += weights[i];
    while (at < into.length && next <= sum) {
      into[at++] = i;
      next += step;
    }
  }
  while (at < into.length) into[at] = into[at++ - 1];
  for (let i = into.length - 1; i > 0; i--) {
    const other = Math.floor(dice() * (i + 1));
    [into[i], into[other]] = [into[other], into[i]];
  }
}
