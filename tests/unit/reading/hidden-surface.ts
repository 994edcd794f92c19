/** Pieces of two settings whose best pair of values is hidden, read by eyes with noise: what the verdict says of each, and what is really so. */
import { weightOf } from "@/core/reading/score";
import { verdict, Verdict } from "@/core/reading/verdict";
import { SettingKey, settingFor } from "@/core/settings";
import { trialKindFor } from "@/core/trials";
import { bell, diceOf, Dice, marksBy, Missing, peaks, pick } from "./worlds";

export interface HiddenPair {
  found: Verdict;
  /** Both in shares of what was tried, 0 to 1. */
  truth: { x: number; y: number };
  /** The place that is named, and what is lost there, in marks. */
  named: { x: number; y: number };
  loss: number;
  /** Whether keeping it would be right: about as good as the best, or a step away from it at most. */
  isRight: boolean;
  /** Where the ranges reach, in the same shares. */
  across: [number, number];
  along: [number, number];
  isBeyond: boolean;
}

const ACROSS = [94, 106] as const;
const UP = [195, 225] as const;
const guide = trialKindFor("matrix").reads({ across: "flowFactor", up: "nozzleTemperature" });

type Surface = (x: number, y: number) => number;

/** Best at a place: bells, Lorentz curves and the like in both directions, slanting or not, or in one direction only. */
function surfaceAround(dice: Dice, tx: number, ty: number, slant: number): Surface {
  const [across, up] = [pick(dice, Object.values(peaks))(dice), pick(dice, Object.values(peaks))(dice)];
  const only = dice();
  return (x, y) => {
    const beside = across((x - tx - slant * (y - ty)) / 1.6) / 4;
    const above = up((y - ty) / 1.6) / 4;
    return 4 * (only < 0.15 ? beside : only < 0.3 ? above : Math.min(1, beside * above * 1.05));
  };
}

/** A piece with a best pair of its own, its cells read by one or two people. */
export function hiddenPair(seed: number): HiddenPair {
  const dice = diceOf(seed * 7919 + 17);
  const isBeyond = dice() < 0.15;
  const [tx, ty] = [isBeyond ? pick(dice, [-0.22, 1.22]) : 0.1 + 0.8 * dice(), 0.1 + 0.8 * dice()];
  const slant = pick(dice, [0, 0, 0.5, -0.5]);
  const scatter = pick(dice, [0, 0.03, 0.08]);
  const surfaces = guide.uses.map(() =>
    surfaceAround(dice, tx + scatter * bell(dice), ty + scatter * bell(dice), slant),
  );
  const weights = guide.uses.map((use) => weightOf(use, {}));
  const all = weights.reduce((sum, one) => sum + one, 0);
  const score: Surface = (x, y) => surfaces.reduce((sum, surface, i) => sum + (weights[i] * surface(x, y)) / all, 0);
  const truth = bestOf(score);
  const [columns, rows] = [pick(dice, [4, 5, 6]), pick(dice, [4, 5, 6])];
  const cells = Array.from({ length: rows * columns }, (_, i) => ({
    x: (i % columns) / (columns - 1),
    y: Math.floor(i / columns) / (rows - 1),
  }));
  const places = cells.map((_, i) => i / cells.length);
  const qualities = surfaces.map((surface) => (place: number) => {
    const { x, y } = cells[Math.round(place * cells.length)];
    return surface(x, y);
  });
  const missing = pick<Missing>(dice, ["nothing", "nothing", "here and there"]);
  const spread = pick(dice, [0.25, 0.5, 0.8]);
  const keys = guide.uses.map(({ key }) => key);
  const readers = Array.from({ length: pick(dice, [1, 1, 2]) }, () => ({
    marks: marksBy({ bias: 0.25 * bell(dice), spread }, places, keys, qualities, missing, dice),
    measures: [],
  }));
  const bands = cells.map(({ x, y }, i) => ({
    band: i + 1,
    value: ACROSS[0] + x * (ACROSS[1] - ACROSS[0]),
    along: UP[0] + y * (UP[1] - UP[0]),
    counts: true,
  }));
  const found = verdict({ guide, setting: "flowFactor", along: "nozzleTemperature", bands, readers, weights: {} });
  const share = ([low, high]: readonly [number, number], value: number | null | undefined) =>
    ((value ?? NaN) - low) / (high - low);
  const named = { x: share(ACROSS, found.value), y: share(UP, found.along?.value) };
  const loss = score(truth.x, truth.y) - score(named.x, named.y);
  return {
    found,
    truth,
    named,
    loss,
    isRight:
      loss <= 0.4 ||
      (Math.abs(truth.x - named.x) <= stepShare("flowFactor", ACROSS) &&
        Math.abs(truth.y - named.y) <= stepShare("nozzleTemperature", UP)),
    across: [share(ACROSS, found.fromValue), share(ACROSS, found.toValue)],
    along: [share(UP, found.along?.fromValue), share(UP, found.along?.toValue)],
    isBeyond: truth.x < -0.05 || truth.x > 1.05,
  };
}

const stepShare = (key: SettingKey, [low, high]: readonly [number, number]) => settingFor(key).step / (high - low);

/** Where a surface is highest: the middle of all places that are as good, to 0.02 of a mark. */
function bestOf(score: Surface): { x: number; y: number } {
  const at = Array.from({ length: 81 }, (_, i) => -0.3 + i * 0.02);
  const all = at.flatMap((y) => at.map((x) => ({ x, y, score: score(x, y) })));
  const top = Math.max(...all.map((one) => one.score));
  const alike = all.filter((one) => one.score >= top - 0.02);
  const middle = (pickOne: (one: { x: number; y: number }) => number) => {
    const sorted = alike.map(pickOne).sort((a, b) => a - b);
    return (sorted[0] + sorted[sorted.length - 1]) / 2;
  };
  return { x: middle(({ x }) => x), y: middle(({ y }) => y) };
}

/** What the verdicts on so many pieces come to. */
export function pairsOf(pieces: number, firstSeed = 1) {
  const sums = { told: 0, across: 0, along: 0, keeps: 0, wrongKeeps: 0, beyond: 0, beyondSaid: 0, loss: 0 };
  for (let seed = firstSeed; seed < firstSeed + pieces; seed++) {
    const { found, truth, across, along, loss, isRight, isBeyond } = hiddenPair(seed);
    if (isBeyond) {
      sums.beyond++;
      if (found.advice === (truth.x > 1 ? "higher" : "lower")) sums.beyondSaid++;
    }
    if (found.value === null || found.advice === "mark-more") continue;
    sums.told++;
    if (truth.x >= across[0] - 1e-9 && truth.x <= across[1] + 1e-9) sums.across++;
    if (truth.y >= along[0] - 1e-9 && truth.y <= along[1] + 1e-9) sums.along++;
    if (!isBeyond) sums.loss += loss;
    if (found.advice === "keep") {
      sums.keeps++;
      if (!isRight) sums.wrongKeeps++;
    }
  }
  return sums;
}
