/** The answer that marks give: where the score is highest, or the first value from one end on which every must is good. */
import { criterionFor } from ".";
import type { CriterionKey } from ".";
import { settingFor, SettingKey } from "../settings";
import { clamp, plainNumber } from "../units";
import { HIGH_SHARE, LOW_SHARE, PieceBelief, pieceBelief } from "./belief/piece-belief";
import { clustersOf, quantile, shareOf } from "./belief/summary";
import type { Wanted } from "./belief/wanted";
import type { Advice, Found, Other } from "./found";
import type { ReadingGuide } from "./guide";
import { finestStep, sayChance, sayFromTo, sensible } from "./say";
import type { BandOnPiece, GivenMark, Weights } from "./score";

/** The second best answer is good enough: "a hair or two", "faint". */
export const BAR = 3;
/** Who wants speed takes the third best. */
const LOWEST_BAR = 2;

/** From this chance on that the best lies beyond an end it is asked there. */
export const BEYOND_FROM = 0.3;
/** A range that is wider than this share of what was tried tells nothing yet. */
export const TELLS_NOTHING = 0.8;
/** A range no wider than so many of a setting's usual steps is as narrow as can be seen. */
export const NARROW_STEPS = 1.5;
/** … and one of so many where the values that were tried lie as near together as can be seen. */
export const FINEST_NARROW_STEPS = 3;
/** A threshold is as good as the first value of which this is likely. */
export const GOOD_FROM = 0.5;
/** Of a value no better than this nobody says that it should be kept. */
export const LEAST_KEPT = 2;

export interface MarksRequest {
  guide: ReadingGuide;
  setting: SettingKey;
  bands: readonly BandOnPiece[];
  readers: readonly (readonly GivenMark[])[];
  weights: Weights;
  /** For what is only foreseen: about a seventh of the work. */
  isRough?: boolean;
}

/** What is wanted by a kind's rule; `speed` above 1 lowers the bar of `most`. */
export function wantedBy({ rule }: ReadingGuide, { speed = 1 }: Weights): Wanted {
  if (rule === "least") return { what: "first", from: "below", bar: BAR };
  if (rule === "most") return { what: "first", from: "above", bar: clamp(BAR + 1 - speed, LOWEST_BAR, BAR + 0.5) };
  return { what: "highest" };
}

/** The answer of a piece whose marks lie on two values at least; null otherwise. */
export function fromMarks({ guide, setting, bands, readers, weights, isRough }: MarksRequest): Found | null {
  const { lowest, highest } = settingFor(setting);
  const wanted = wantedBy(guide, weights);
  const belief = pieceBelief({ bands, readers, uses: guide.uses, weights, wanted, lowest, highest, isRough });
  if (!belief) return null;
  const { best, line } = belief;
  const low = quantile(best, LOW_SHARE);
  const high = quantile(best, HIGH_SHARE);
  const halfStep = EDGE_SHARE / (line.values.length - 1);
  const chanceBelow = shareOf(best, (x) => x < -halfStep);
  const chanceAbove = shareOf(best, (x) => x > 1 + halfStep);
  const value = wanted.what === "highest" ? bestTried(belief) : firstGood(belief, wanted.from);
  const limit = (x: number) => clamp(line.toValue(clamp(x, line.lowX, line.highX)), lowest, highest);
  const [fromX, toX] = [Math.min(low, value), Math.max(high, value)].map((x, i) =>
    wanted.what === "highest" ? x : reachToBad(belief, wanted.from, value, x, i === 0),
  );
  const advice = adviceOn(belief, { setting, wanted, chanceBelow, chanceAbove, fromX, toX, value });
  const found = {
    value: line.toValue(value),
    fromValue: limit(fromX),
    toValue: limit(toX),
    chanceBetween: (from: number, to: number) => shareOf(best, (x) => between(line.toValue(x), from, to)),
    chanceBelow,
    chanceAbove,
    advice,
    tellsMost: belief.tellsMost,
    others: wanted.what === "highest" ? othersOf(belief, value) : [],
    curve: belief.curve,
  };
  return { ...found, why: sayWhy(belief, wanted, setting, found) };
}

const between = (value: number, from: number, to: number) => value >= from - 1e-9 && value <= to + 1e-9;

/** Nearer to an end than this share of a step is at it. */
export const EDGE_SHARE = 0.25;

/** Where the mean score is highest among what was tried. */
function bestTried({ means, best }: PieceBelief): number {
  const top = Math.max(...means.map(({ score }) => score));
  const alike = means.filter(({ score }) => score >= top - ALIKE);
  // Of what is alike the middle draw, so that a flat top gives its middle.
  const middle = clamp(quantile(best, 0.5), 0, 1);
  return alike.reduce((near, { x }) => (Math.abs(x - middle) < Math.abs(near - middle) ? x : near), alike[0].x);
}

const ALIKE = 0.06;

/** The first value that was tried, from one end, of which it is likely that it is good; the last one where none is. */
function firstGood({ line, best }: PieceBelief, from: "below" | "above"): number {
  const places = line.values.map(line.toX);
  const inOrder = from === "below" ? places : [...places].reverse();
  const isGood = (place: number) =>
    shareOf(best, (x) => (from === "below" ? x <= place + 1e-9 : x >= place - 1e-9)) >= GOOD_FROM;
  return inOrder.find(isGood) ?? inOrder[inOrder.length - 1];
}

/** Between the last value that was tried and is not good and the first that is, nothing is known: a range reaches over all of it. */
function reachToBad({ line }: PieceBelief, from: "below" | "above", value: number, x: number, isLow: boolean): number {
  const places = line.values.map(line.toX);
  if (from === "below" && isLow) return Math.min(x, ...places.filter((place) => place < value - 1e-9).slice(-1));
  if (from === "above" && !isLow) return Math.max(x, ...places.filter((place) => place > value + 1e-9).slice(0, 1));
  return x;
}

interface Known {
  setting: SettingKey;
  wanted: Wanted;
  chanceBelow: number;
  chanceAbove: number;
  fromX: number;
  toX: number;
  value: number;
}

function adviceOn(belief: PieceBelief, known: Known): Advice {
  const { chanceBelow, chanceAbove, fromX, toX, value, setting, wanted } = known;
  const { line, means, marked } = belief;
  const beyond = Math.max(chanceBelow, chanceAbove);
  const isAbove = chanceAbove >= chanceBelow;
  const isBest = wanted.what === "highest";
  const own = means.reduce((near, one) => (Math.abs(one.x - value) < Math.abs(near.x - value) ? one : near));
  const isFinest = triedStep(line.values) <= finestStep(setting) * FINEST_MARGIN;
  // As near together as can be seen, and hardly any of it worse: there is nothing more to find, however wide the range.
  const isAlike = isBest && isFinest && own.score >= ALIKE_FROM && belief.highestScore - own.score <= ALIKE_LOSS;
  if (isAlike && beyond <= BEYOND_FROM) return "keep";
  // What lies beyond draws the range out; only what is left of it tells whether a value stands out.
  const isNowhere = isBest && toX - fromX > TELLS_NOTHING * (1 + 2 * Math.min(0.25, chanceBelow + chanceAbove));
  if (isNowhere && beyond < SURELY_BEYOND) return "mark-more";
  // Nobody prints beyond an end that was not looked at.
  const onwards = (up: boolean): Advice =>
    (up ? marked.highest : marked.lowest) ? (up ? "higher" : "lower") : "mark-more";
  if (beyond > BEYOND_FROM) return onwards(isAbove);
  if (toX - fromX > TELLS_NOTHING) return "mark-more";
  const { step } = settingFor(setting);
  const width = line.toValue(toX) - line.toValue(fromX);
  // A threshold's last bad value was tried; the best has worse ones on both sides, unless the setting itself ends there.
  const edge = EDGE_SHARE / (line.values.length - 1);
  // Values as near together as can be seen all lie near the best: then it is enough that it hardly lies beyond them.
  const isInside =
    !isBest ||
    (isFinest ? beyond <= HARDLY : (fromX > edge || line.lowX > -edge) && (toX < 1 - edge || line.highX < 1 + edge));
  const isGood = !isBest || own.score >= LEAST_KEPT;
  if (isGood && isInside && width <= (isFinest ? FINEST_NARROW_STEPS : NARROW_STEPS) * step) return "keep";
  if (!isFinest) return "narrow";
  // Nothing finer can be seen: it is asked beyond the end that the range reaches, or looked at once more.
  return isGood && !isInside ? onwards(isAbove) : "mark-more";
}

const SURELY_BEYOND = 0.42;
/** From this score on, and losing no more than so much of it, in marks, a value is as good as any other. */
const ALIKE_FROM = 3;
const ALIKE_LOSS = 0.3;
/** So likely is hardly. */
const HARDLY = 0.15;
/** As likely as not. */
const EVEN = 0.5;
/** Steps come rounded. */
export const FINEST_MARGIN = 1.01;

/** How far apart the values were that were tried, on the whole. */
const triedStep = (values: readonly number[]) => (values[values.length - 1] - values[0]) / (values.length - 1);

/** Places that look good besides the one that is named. */
function othersOf({ best, line }: PieceBelief, value: number): Other[] {
  const clusters = clustersOf(best);
  if (clusters.length < 2) return [];
  const own = clusters.reduce((near, one) => (awayFrom(one, value) < awayFrom(near, value) ? one : near));
  return clusters
    .filter((one) => one !== own)
    .map(({ from, to, at, share }) => ({
      value: line.toValue(at),
      fromValue: line.toValue(from),
      toValue: line.toValue(to),
      share,
    }));
}

const awayFrom = ({ from, to }: { from: number; to: number }, x: number) => Math.max(from - x, x - to, 0);

function sayWhy(belief: PieceBelief, wanted: Wanted, setting: SettingKey, found: Omit<Found, "why">): string {
  const { advice, fromValue, toValue, chanceAbove, chanceBelow, others } = found;
  const { line, contradiction, unseen } = belief;
  const { unit, decimals } = settingFor(setting);
  const sentences: string[] = [];
  const edge = (value: number) => `${plainNumber(value, decimals)} ${unit}`.trim();
  const thing =
    wanted.what === "highest"
      ? "the best"
      : wanted.from === "below"
        ? "the least that is good"
        : "the most that is good";
  if (contradiction) {
    sentences.push(
      `Two readers contradict each other, most about ${criterionFor(contradiction.criterion).short} of band ${contradiction.band}: look at it together.`,
    );
  }
  const capital = thing[0].toUpperCase() + thing.slice(1);
  const inRange = `${capital} is ${sayFromTo(setting, fromValue, toValue)}, in 9 of 10.`;
  const isBeyond = advice === "higher" || advice === "lower";
  // Where it rather lies inside, that is said first.
  if (isBeyond && Math.max(chanceAbove, chanceBelow) < EVEN) sentences.push(inRange);
  if (advice === "higher")
    sentences.push(
      `${sayChance(chanceAbove)} that ${thing} is above ${edge(line.values[line.values.length - 1])}, the highest value that was tried.`,
    );
  else if (advice === "lower")
    sentences.push(
      `${sayChance(chanceBelow)} that ${thing} is below ${edge(line.values[0])}, the lowest value that was tried.`,
    );
  else if (advice === "mark-more")
    sentences.push(`No value stands out: ${thing} may be anywhere ${sayFromTo(setting, fromValue, toValue)}.`);
  else sentences.push(inRange);
  for (const other of others) {
    sentences.push(
      `${edge(sensible(setting, other.value))} looks good, too (${sayChance(other.share).toLowerCase()}).`,
    );
  }
  if (unseen.length > 0)
    sentences.push(`Nobody looked at ${unseen.map((key: CriterionKey) => criterionFor(key).short).join(", ")}.`);
  if (found.tellsMost && advice !== "keep") {
    const { band, criterion } = found.tellsMost;
    sentences.push(`Mark ${criterionFor(criterion).short} of band ${band} next: it tells most.`);
  }
  return sentences.join(" ");
}
