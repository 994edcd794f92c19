/**
 * Pieces with hidden truths, for what a reading says to be held against. How good a band is follows from shapes that the belief does not
 * have (bells, Lorentz curves, cosines, level tops with steep or slow flanks, staircases), the eyes from noise and habits of their own.
 */
import type { Mark } from "@/core/reading/criterion";
import type { GivenMark } from "@/core/reading/score";

export type Dice = () => number;

/** Numbers that look random and are the same every time (mulberry32, public domain). */
export function diceOf(seed: number): Dice {
  let state = seed;
  return () => {
    state = (state + 0x6d2b79f5) | 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

/** Normal noise by twelve dice (central limit). */
export const bell = (dice: Dice) => Array.from({ length: 12 }, dice).reduce((sum, one) => sum + one, -6);

export const pick = <T>(dice: Dice, all: readonly T[]): T => all[Math.floor(dice() * all.length)];
const between = (dice: Dice, low: number, high: number) => low + (high - low) * dice();

/** How good, 0 to 4, so far from the truth; distances in shares of the range that was tried. */
export type Shape = (away: number) => number;

/** Best at one place. */
export const peaks: Record<string, (dice: Dice) => Shape> = {
  bell: (dice) => {
    const wide = between(dice, 0.1, 0.35);
    return (away) => 4 * Math.exp((-away * away) / (2 * wide * wide));
  },
  lorentz: (dice) => {
    const wide = between(dice, 0.1, 0.4);
    return (away) => 4 / (1 + (away / wide) ** 2);
  },
  cosine: (dice) => {
    const wide = between(dice, 0.3, 0.8);
    return (away) => (Math.abs(away) > wide ? 0 : 2 + 2 * Math.cos((Math.PI * away) / wide));
  },
  levelTop: (dice) => {
    const [half, left, right] = [between(dice, 0.03, 0.15), between(dice, 0.08, 0.3), between(dice, 0.08, 0.3)];
    return (away) => 4 * Math.exp(-Math.max(0, Math.abs(away) - half) / (away < 0 ? left : right));
  },
  lopsided: (dice) => {
    const [left, right] = [between(dice, 0.08, 0.25), between(dice, 0.2, 0.5)];
    return (away) => 3.8 * Math.exp(-((away / (away < 0 ? left : right)) ** 2) / 2);
  },
};

/** Good up to somewhere, and worse from there on: `sign` 1 towards higher values. */
export const slopes: Record<string, (dice: Dice) => Shape> = {
  ramp: (dice) => {
    const wide = between(dice, 0.2, 0.6);
    return (away) => 4 - (3 * Math.max(0, away + wide / 3)) / wide;
  },
  power: (dice) => {
    const wide = between(dice, 0.15, 0.4);
    return (away) => 4 - (Math.max(0, away + wide) / wide) ** 2.5;
  },
  stairs: (dice) => {
    const wide = between(dice, 0.08, 0.2);
    return (away) => 3.5 - Math.floor(away / wide) * 0.8;
  },
  atan: (dice) => {
    const wide = between(dice, 0.03, 0.2);
    return (away) => 2 - (4 / Math.PI) * Math.atan(away / wide);
  },
};

const clip = (quality: number) => Math.min(4, Math.max(0, quality));

/** One thing that is looked at: how good it is by place, from 0 at the lowest value to 1 at the highest. */
export type Quality = (x: number) => number;

/** Some criteria whose best lies near a place, or that want it from two sides. */
export function qualitiesAround(dice: Dice, truth: number, count: number): Quality[] {
  const isTrade = dice() < 0.4;
  const scatter = pick(dice, [0, 0.03, 0.08]);
  return Array.from({ length: count }, (_, i) => {
    const own = truth + scatter * bell(dice);
    if (isTrade && i < 2) {
      const slope = pick(dice, Object.values(slopes))(dice);
      const sign = i === 0 ? 1 : -1;
      return (x: number) => clip(slope((x - own) * sign));
    }
    const peak = pick(dice, Object.values(peaks))(dice);
    return (x: number) => clip(peak(x - own));
  });
}

/** Where a weighted sum is highest: the middle of all places that are as good, to 0.02 of a mark. */
export function bestOf(qualities: readonly Quality[], weights: readonly number[], low = -0.6, high = 1.6): number {
  const all = weights.reduce((sum, one) => sum + one, 0);
  const score = (x: number) => qualities.reduce((sum, quality, i) => sum + (weights[i] * quality(x)) / all, 0);
  const places = Array.from({ length: 1101 }, (_, i) => low + (i / 1100) * (high - low));
  const scores = places.map(score);
  const top = Math.max(...scores);
  const alike = places.filter((_, i) => scores[i] >= top - 0.02);
  return (alike[0] + alike[alike.length - 1]) / 2;
}

/** How somebody looks. */
export interface Habit {
  bias: number;
  spread: number;
  /** Gives 3 to everything. */
  isLazy?: boolean;
}

export const markFor = (quality: number, { bias, spread, isLazy }: Habit, dice: Dice): Mark =>
  isLazy ? 3 : (Math.round(clip(quality + bias + spread * bell(dice))) as Mark);

/** What is left out: nothing, marks here and there, or a criterion on one side. */
export type Missing = "nothing" | "here and there" | "one side";

/** Marks of one reader on bands at places. */
export function marksBy<K extends string>(
  habit: Habit,
  places: readonly number[],
  keys: readonly K[],
  qualities: readonly Quality[],
  missing: Missing,
  dice: Dice,
): GivenMark[] {
  const side = dice() < 0.5;
  return keys.flatMap((criterion, i) =>
    places.flatMap((x, place) => {
      if (missing === "here and there" && dice() < 0.25) return [];
      if (missing === "one side" && i === keys.length - 1 && x < 0.5 === side) return [];
      const mark = markFor(qualities[i](x), habit, dice);
      return [{ band: place + 1, criterion, mark } as unknown as GivenMark];
    }),
  );
}
