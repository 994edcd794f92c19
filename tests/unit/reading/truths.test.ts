/**
 * Two rounds of reading find what is hidden: 200 truths a kind, seen by an eye with noise. How a piece gets worse away from its truth is made
 * up here and shares nothing with the rules; marks are whole, as people give them.
 */
import fc from "fast-check";
import type { Mark } from "@/core/reading/criterion";
import type { GivenMark } from "@/core/reading/score";
import { verdict, Verdict } from "@/core/reading/verdict";
import { settingFor } from "@/core/settings";
import { TrialKindKey } from "@/core/trials";
import { nextRound } from "@/core/trials/next-round";
import { guideOf, toldOf, unitsOf, Unit, verdictOf } from "@/core/trials/run";
import { primaryKey } from "@/core/trials/shown";
import type { Trial } from "@/core/trials/trial";
import { OptionValues } from "@/core/options/option";
import { ladle, saffron, trialOfKind } from "../helpers/demo";
import { bell, diceOf } from "./worlds";

const EYE = 0.4;

interface Question {
  kind: TrialKindKey;
  options?: OptionValues;
  /** Where truths lie. */
  from: number;
  to: number;
  /** The quality, 0 to 4, of a value for a truth. */
  quality(value: number, truth: number): number;
}

const hill = (width: number) => (value: number, truth: number) => 4 - ((value - truth) / width) ** 2;

const questions: Question[] = [
  { kind: "temperature", from: 201, to: 219, quality: hill(8) },
  { kind: "fan", from: 25, to: 75, quality: hill(25) },
  // Strings die out as it is drawn back further; the bar is passed at the truth.
  { kind: "retraction", from: 1.5, to: 6, quality: (value, truth) => Math.min(4, 3 + (value - truth) * 1.2) },
  { kind: "pressure-advance", from: 0.2, to: 0.8, quality: hill(0.22) },
];

function readingOf(trial: Trial, marksOf: (unit: Unit, criterion: number) => Mark): Verdict {
  const run = { trial, printer: ladle, reachedMm: null, told: toldOf(trial, []), byHand: [] };
  const guide = guideOf(run);
  const marks: GivenMark[] = unitsOf(run).flatMap((unit) =>
    guide.uses.map(({ key }, i) => ({ band: unit.band, criterion: key, mark: marksOf(unit, i) })),
  );
  return verdict({
    guide,
    setting: primaryKey(trial, ladle),
    bands: unitsOf(run),
    readers: [{ marks, measures: [] }],
    weights: {},
  });
}

const markOf = (quality: number) => Math.max(0, Math.min(4, Math.round(quality))) as Mark;

test.each(questions)(
  "$kind: two rounds come within one step of the truth in nine of ten",
  ({ kind, options, from, to, quality }) => {
    let near = 0;
    const missed: string[] = [];
    for (let seed = 1; seed <= 200; seed++) {
      const next = diceOf(seed * 7919);
      const truth = from + (to - from) * next();
      const look = (unit: Unit) => markOf(quality(unit.value, truth) + EYE * bell(next));
      let trial = trialOfKind(kind, ladle, saffron, {}, options);
      let found = readingOf(trial, look);
      const plan = nextRound(trial, { printer: ladle, spool: saffron }, found);
      if (plan.ok) {
        trial = { ...trial, plan: plan.value };
        const second = readingOf(trial, look);
        if (second.value !== null) found = second;
      }
      const { step } = settingFor(primaryKey(trial, ladle));
      // Long filament paths want ten times the advance of short ones: a step there is 0.1 s (the kind's own).
      const within = kind === "pressure-advance" ? 0.1 : step;
      if (found.value !== null && Math.abs(found.value - truth) <= within) near++;
      else missed.push(`${truth.toFixed(2)} → ${String(found.value)} (${found.advice})`);
    }
    if (near < 180) throw new Error(`${near} of 200; ${missed.slice(0, 12).join(", ")}`);
    expect(near).toBeGreaterThanOrEqual(180);
  },
);

test("flow: walls measured with a calliper come within one step of the truth in nine of ten", () => {
  const trial = trialOfKind("flow", ladle, saffron);
  const units = unitsOf({ trial, printer: ladle, reachedMm: null, told: [], byHand: [] });
  const wantedMm = 0.45;
  let near = 0;
  for (let seed = 1; seed <= 200; seed++) {
    const next = diceOf(seed * 15485863);
    const truth = 93 + 12 * next();
    // A calliper is read to a hundredth of a millimetre, and a hand adds as much.
    const wall = (value: number) => Math.round((wantedMm * (value / truth) + 0.01 * bell(next)) * 100) / 100;
    const measures = units.map(({ band, value }) => ({
      band,
      what: "wall",
      valuesMm: Array.from({ length: 4 }, () => wall(value)),
    }));
    const found = verdictOf({ trial, printer: ladle }, units, [{ marks: [], measures }], {});
    if (found.value !== null && Math.abs(found.value - truth) <= settingFor("flowFactor").step) near++;
  }
  expect(near).toBeGreaterThanOrEqual(180);
});

test.each(questions)("$kind: marks that are all the same, or thrown by dice, are no certainty", ({ kind, options }) => {
  const trial = trialOfKind(kind, ladle, saffron, {}, options);
  const values = unitsOf({ trial, printer: ladle, reachedMm: null, told: [], byHand: [] }).map(({ value }) => value);
  const whole = Math.max(...values) - Math.min(...values);
  const same = readingOf(trial, () => 3);
  expect(same.advice === "mark-more" || same.toValue! - same.fromValue! >= whole * 0.5).toBe(true);
  let certain = 0;
  for (let seed = 1; seed <= 200; seed++) {
    const next = diceOf(seed * 104729);
    const found = readingOf(trial, () => Math.floor(next() * 5) as Mark);
    if (found.advice === "keep" && found.sure > 0.7) certain++;
  }
  // One in twenty is what chance does to anybody.
  expect(certain).toBeLessThanOrEqual(10);
});

test("a verdict never leaves what was tried, and its range holds it", () => {
  fc.assert(
    fc.property(fc.array(fc.integer({ min: 0, max: 4 }), { minLength: 35, maxLength: 35 }), (given) => {
      const trial = trialOfKind("temperature", ladle, saffron);
      let at = 0;
      const found = readingOf(trial, () => given[at++ % given.length] as Mark);
      if (found.value === null) return;
      expect(found.value).toBeGreaterThanOrEqual(195);
      expect(found.value).toBeLessThanOrEqual(225);
      expect(found.fromValue!).toBeLessThanOrEqual(found.value);
      expect(found.toValue!).toBeGreaterThanOrEqual(found.value);
    }),
    { numRuns: 60 },
  );
});
