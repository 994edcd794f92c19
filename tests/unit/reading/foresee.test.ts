/** What a further round is expected to narrow, and how it is placed by that: held against what such rounds really do, in worlds of other shapes. */
import { fromMarks } from "@/core/reading/from-marks";
import { widthsAfter } from "@/core/reading/foresee";
import { trialKindFor } from "@/core/trials";
import { placedRound } from "@/core/trials/placed-round";
import { nextRound, valuesOf } from "@/core/trials/next-round";
import { unitsOf, verdictOf } from "@/core/trials/run";
import { ladle, saffron, trialOfKind } from "../helpers/demo";
import { diceOf, Dice, marksBy, qualitiesAround } from "./worlds";

const guide = trialKindFor("temperature").reads({});
const setting = "nozzleTemperature" as const;
const keys = guide.uses.map(({ key }) => key);
const trial = trialOfKind("temperature", ladle, saffron);
const [low, high] = [195, 225];
const shareOf = (value: number) => (value - low) / (high - low);

type Qualities = ReturnType<typeof qualitiesAround>;

function marksOn(values: readonly number[], qualities: Qualities, dice: Dice) {
  return marksBy({ bias: 0, spread: 0.5 }, values.map(shareOf), keys, qualities, "nothing", dice);
}

const foundOn = (values: readonly number[], marks: ReturnType<typeof marksOn>) =>
  fromMarks({
    guide,
    setting,
    bands: values.map((value, i) => ({ band: i + 1, value, counts: true })),
    readers: [marks],
    weights: {},
  });

test("what is foreseen is about what comes: over many hidden truths the widths after a round agree to a third", () => {
  let [foreseen, came, pieces] = [0, 0, 0];
  const first = valuesOf(trial, setting);
  const next = [204, 206, 208, 210, 212, 214, 216];
  for (let seed = 1; seed <= 24; seed++) {
    const dice = diceOf(seed * 12_007);
    const qualities = qualitiesAround(dice, shareOf(205 + 10 * dice()), keys.length);
    const marks = marksOn(first, qualities, dice);
    const bands = first.map((value, i) => ({ band: i + 1, value, counts: true }));
    const widths = widthsAfter({ guide, setting, bands, readers: [marks], weights: {} }, [next]);
    const after = foundOn(next, marksOn(next, qualities, dice));
    if (!widths || !after) continue;
    pieces++;
    foreseen += widths[0];
    came += after.toValue - after.fromValue;
  }
  expect(pieces).toBeGreaterThan(20);
  expect(foreseen / came).toBeGreaterThan(0.67);
  expect(foreseen / came).toBeLessThan(1.5);
});

test("values around the best narrow more than values beside it, and nothing is foreseen from no marks", () => {
  const dice = diceOf(5);
  const qualities = qualitiesAround(dice, shareOf(210), keys.length);
  const first = valuesOf(trial, setting);
  const bands = first.map((value, i) => ({ band: i + 1, value, counts: true }));
  const request = { guide, setting, bands, readers: [marksOn(first, qualities, dice)], weights: {} };
  const [around, few] = widthsAfter(request, [
    [204, 206, 208, 210, 212, 214, 216],
    [204, 216],
  ])!;
  expect(around).toBeLessThan(few);
  expect(widthsAfter({ ...request, readers: [[]] }, [[204, 216]])).toBeNull();
});

test("a round is placed over the whole range of the one that follows, with no more values than are worth it", () => {
  const run = { trial, printer: ladle, reachedMm: null, told: [], byHand: [] };
  const units = unitsOf(run);
  for (let seed = 1; seed <= 6; seed++) {
    const dice = diceOf(seed * 77);
    const qualities = qualitiesAround(dice, shareOf(207 + 6 * dice()), keys.length);
    const marks = marksOn(
      units.map(({ value }) => value),
      qualities,
      dice,
    );
    const readers = [{ marks, measures: [] }];
    const on = { printer: ladle, spool: saffron };
    const verdict = verdictOf(run, units, readers, {});
    const usual = nextRound(trial, on, verdict);
    const placed = placedRound({ run, units, readers, weights: {}, verdict, spool: saffron });
    expect(placed.ok).toBe(usual.ok);
    if (!placed.ok || !usual.ok) continue;
    const [before, own] = [
      valuesOf({ ...trial, plan: usual.value }, setting),
      valuesOf({ ...trial, plan: placed.value.plan }, setting),
    ];
    expect([own[0], own[own.length - 1]]).toEqual([before[0], before[before.length - 1]]);
    expect(own.length).toBeLessThanOrEqual(before.length);
    expect(placed.value.narrowsTo!).toBeGreaterThan(0);
    expect(placed.value.narrowsTo!).toBeLessThan(30);
  }
});
