/** Pieces whose truth is hidden, read by eyes and callipers with noise: what the verdict says of each, and what is really so. */
import type { ReadingGuide } from "@/core/reading/guide";
import { weightOf } from "@/core/reading/score";
import { verdict, Verdict } from "@/core/reading/verdict";
import { SettingKey, settingFor } from "@/core/settings";
import { trialKindFor, TrialKindKey } from "@/core/trials";
import { bell, bestOf, Dice, diceOf, Missing, marksBy, pick, qualitiesAround, Quality } from "./worlds";

export interface Hidden {
  found: Verdict;
  truth: number;
  /** Beyond what was tried; null inside. */
  beyond: "higher" | "lower" | null;
  /** Whether keeping the value would be right: about as good as the best, or near enough to it. */
  isRight: boolean;
}

export const hiddenKinds = ["temperature", "fan", "retraction", "speed", "flow"] as const;
export type HiddenKind = (typeof hiddenKinds)[number];

const guideFor = (kind: TrialKindKey) => trialKindFor(kind).reads({});
const evenly = (low: number, high: number, count: number) =>
  Array.from({ length: count }, (_, i) => low + ((high - low) * i) / (count - 1));

/** A piece of a kind with a truth of its own. */
export function hiddenPiece(kind: HiddenKind, seed: number): Hidden {
  const dice = diceOf(seed * 7919 + hiddenKinds.indexOf(kind) * 104_729);
  if (kind === "flow") return wallsOf(dice);
  if (kind === "retraction") return thresholdOf(dice, guideFor(kind), "retractionLength", [0.5, 6]);
  if (kind === "speed") return thresholdOf(dice, guideFor(kind), "printSpeed", [40, 160]);
  return kind === "fan"
    ? bestPiece(dice, guideFor(kind), "fan", [20, 80])
    : bestPiece(dice, guideFor(kind), "nozzleTemperature", [195, 225]);
}

/** How a piece is looked at: by one to three readers, with holes here and there. */
function looked(dice: Dice, guide: ReadingGuide, places: number[], qualities: Quality[]) {
  const spread = pick(dice, [0.25, 0.5, 0.8]);
  const readers = pick(dice, [1, 1, 1, 2, 3]);
  const missing = pick<Missing>(dice, ["nothing", "nothing", "here and there", "one side"]);
  const hasLazy = readers > 1 && dice() < 0.2;
  const keys = guide.uses.map(({ key }) => key);
  return Array.from({ length: readers }, (_, reader) => ({
    marks: marksBy(
      { bias: 0.25 * bell(dice), spread, isLazy: hasLazy && reader === 0 },
      places,
      keys,
      qualities,
      missing,
      dice,
    ),
    measures: [],
  }));
}

function bestPiece(dice: Dice, guide: ReadingGuide, setting: SettingKey, [low, high]: [number, number]): Hidden {
  const values = evenly(low, high, pick(dice, [5, 7, 9]));
  const places = values.map((value) => (value - low) / (high - low));
  const aimed = dice() < 0.2 ? pick(dice, [-0.25, 1.25]) + 0.05 * bell(dice) : 0.05 + 0.9 * dice();
  const qualities = qualitiesAround(dice, aimed, guide.uses.length);
  const weights = guide.uses.map((use) => weightOf(use, {}));
  const { lowest, highest, step } = settingFor(setting);
  const ends = [lowest, highest].map((end) => (end - low) / (high - low));
  const at = bestOf(qualities, weights, Math.max(-0.5, ends[0]), Math.min(1.5, ends[1]));
  const truth = low + (high - low) * at;
  const bands = values.map((value, i) => ({ band: i + 1, value, counts: true }));
  const found = verdict({ guide, setting, bands, readers: looked(dice, guide, places, qualities), weights: {} });
  return { found, truth, beyond: beyondOf(at), isRight: Math.abs((found.value ?? Infinity) - truth) <= step };
}

const beyondOf = (at: number): Hidden["beyond"] => (at > 1.05 ? "higher" : at < -0.05 ? "lower" : null);

/** Good from a value on (or up to it), as sharply or slowly as may be. */
function thresholdOf(dice: Dice, guide: ReadingGuide, setting: SettingKey, [low, high]: [number, number]): Hidden {
  const isLeast = guide.rule === "least";
  const values = evenly(low, high, pick(dice, [5, 7, 9]));
  const places = values.map((value) => (value - low) / (high - low));
  const isBeyond = dice() < 0.15;
  const at = isBeyond ? (isLeast ? 1.15 : -0.15) : 0.08 + 0.85 * dice();
  const soft = pick(dice, [0.005, 0.03, 0.1, 0.25]);
  const shape = pick(dice, ["ramp", "exponential", "there and back", "arctangent"]);
  const good = (x: number) => {
    const past = isLeast ? x - at : at - x;
    if (shape === "ramp") return 3 + past / soft;
    if (shape === "exponential") return past > 0 ? 4 - Math.exp(-past / soft) : 3 * Math.exp(past / soft / 1.5);
    if (shape === "arctangent") return 2 + (4 / Math.PI) * Math.atan(past / soft + 1);
    return 3 + Math.min(1, past / soft) - Math.max(0, past - 0.4) * 6;
  };
  const quality = (x: number) => Math.min(4, Math.max(0, good(x)));
  const qualities = guide.uses.map(({ must }) => (must ? quality : () => 3.5));
  const bands = values.map((value, i) => ({ band: i + 1, value, counts: true }));
  const readers = looked(dice, guide, places, qualities);
  const found = verdict({ guide, setting, bands, readers, weights: {} });
  const truth = low + (high - low) * at;
  const own = ((found.value ?? NaN) - low) / (high - low);
  const step = (high - low) / (values.length - 1);
  // What is kept has to be good, and not much more than is needed.
  const isRight = quality(own) >= 2.5 && Math.abs((found.value ?? Infinity) - truth) <= step * 1.3;
  return { found, truth, beyond: isBeyond ? (isLeast ? "higher" : "lower") : null, isRight };
}

/** Walls measured with a calliper: as wide as the flow, with what the hand and the band add. */
function wallsOf(dice: Dice): Hidden {
  const guide = guideFor("flow");
  const count = pick(dice, [2, 3, 5, 7]);
  const times = pick(dice, [1, 2, 4]);
  const isBeyond = dice() < 0.15;
  const truth = isBeyond ? pick(dice, [90, 112]) : 95 + 10 * dice();
  const [hand, band] = [pick(dice, [0.008, 0.012, 0.02]), pick(dice, [0, 0.005, 0.01])];
  const bands = evenly(94, 106, count).map((value, i) => ({ band: i + 1, value, counts: true }));
  const measures = bands.map(({ band: number, value }) => {
    const own = 0.45 * (value / truth) + band * bell(dice);
    const valuesMm = Array.from({ length: times }, () => Math.round((own + hand * bell(dice)) * 100) / 100);
    return { band: number, what: "wall", valuesMm };
  });
  const readers = [{ marks: [], measures }];
  const found = verdict({ guide, setting: "flowFactor", bands, readers, weights: {}, wantedMm: 0.45 });
  const isRight = Math.abs((found.value ?? Infinity) - truth) <= 1.5 * settingFor("flowFactor").step;
  return { found, truth, beyond: isBeyond ? (truth > 106 ? "higher" : "lower") : null, isRight };
}

/** What many pieces come to. */
export interface Reliability {
  pieces: number;
  /** Of those with a range: how many ranges hold the truth, and how many were said to. */
  held: number;
  said: number;
  ranges: number;
  keeps: number;
  wrongKeeps: number;
  beyond: number;
  beyondSaid: number;
}

/** What the verdicts on so many pieces of a kind come to. */
export function reliabilityOf(kind: HiddenKind, pieces: number, firstSeed = 1): Reliability {
  const sums = { pieces, held: 0, said: 0, ranges: 0, keeps: 0, wrongKeeps: 0, beyond: 0, beyondSaid: 0 };
  for (let seed = firstSeed; seed < firstSeed + pieces; seed++) {
    const { found, truth, beyond, isRight } = hiddenPiece(kind, seed);
    if (found.fromValue !== null && found.toValue !== null) {
      sums.ranges++;
      sums.said += found.sure;
      if (truth >= found.fromValue - 1e-9 && truth <= found.toValue + 1e-9) sums.held++;
    }
    if (found.advice === "keep") {
      sums.keeps++;
      if (!isRight) sums.wrongKeeps++;
    }
    if (beyond) {
      sums.beyond++;
      if (found.advice === beyond) sums.beyondSaid++;
    }
  }
  return sums;
}
