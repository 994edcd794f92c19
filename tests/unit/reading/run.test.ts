/** A run says what stands on its piece, whatever becomes of the trial. */
import { nextRound } from "@/core/trials/next-round";
import { toldOf, unitsOf, verdictOf } from "@/core/trials/run";
import { verdict } from "@/core/reading/verdict";
import { ladle, saffron, trialOfKind } from "../helpers/demo";

const trial = trialOfKind("temperature", ladle, saffron);
const run = { trial, printer: ladle, reachedMm: null, told: toldOf(trial, [0.95, 0.3]), byHand: [] };

test("a piece that broke off is read up to where it came; an unsettled band does not count", () => {
  // 0.6 mm of base and bands of 4.6 mm: 15 mm are the base and three bands.
  const units = unitsOf({ ...run, reachedMm: 15 });
  expect(units.map(({ counts }) => counts)).toEqual([true, false, true, false, false, false, false]);
  expect(units[1].why).toMatch(/settled in 30 %/);
  expect(units[3].why).toMatch(/the print stopped/);
});

test("what was measured over the link counts instead of what was expected", () => {
  const samples = [1, 2, 3, 4, 5].map((mm, i) => ({ heightMm: mm, nozzleC: [225, 224, 226, 225, 215][i] }));
  const [first, second] = toldOf(trial, [0.1, 0.9], samples);
  expect(first).toEqual({ band: 1, meanC: 223, spreadC: 4, settledShare: 0.8 });
  expect(second).toEqual({ band: 2, meanC: null, spreadC: null, settledShare: 0.9 });
});

test("what was changed by hand in a band's lower half is what the band says", () => {
  const byHand = [
    { heightMm: 5.4, setting: "nozzleTemperature" as const, value: 217 },
    { heightMm: 18.8, setting: "nozzleTemperature" as const, value: 190 },
  ];
  const values = unitsOf({ ...run, byHand }).map(({ value }) => value);
  // Band 2 from 5.2 to 9.8 mm; the second change comes at the end of band 4 (14.4 to 19 mm) and is no value of its own.
  expect(values.slice(0, 4)).toEqual([225, 217, 215, 210]);
});

test("values that stand side by side are read one by one", () => {
  const lines = trialOfKind("pressure-advance", ladle, saffron);
  const units = unitsOf({ ...run, trial: lines, told: [] });
  expect(units.map(({ label }) => label).slice(0, 3)).toEqual(["0 s", "0.1 s", "0.2 s"]);
});

test("tracks are read one by one, each by the width it was asked for; without two of them measured nothing is said", () => {
  const tracks = trialOfKind("extrusion", ladle, saffron);
  const units = unitsOf({ ...run, trial: tracks, told: [] });
  expect(units.map(({ label }) => label)).toEqual(["0.4 mm", "0.48 mm", "0.56 mm", "0.64 mm", "0.72 mm", "0.8 mm"]);
  const said = (measures: { band: number; what: string; valuesMm: number[] }[]) =>
    verdictOf({ trial: tracks, printer: ladle }, units, [{ marks: [], measures }], {});
  expect(said([])).toMatchObject({ value: null, advice: "mark-more" });
  expect(said([]).why).toMatch(/^Measure the width of the track at two places at least\.$/);
  // Each is as wide as asked for and a tenth of what it adds: 100 / 1.1 = 90.9 %.
  const wide = units.map(({ band, wantedMm }) => ({ band, what: "track", valuesMm: [0.2 + (wantedMm! - 0.2) * 1.1] }));
  expect(said(wide).value).toBe(90.9);
});

test("what else was tried goes along as the nearest band had it", () => {
  const both = {
    ...trial,
    plan: {
      ...trial.plan,
      bands: trial.plan.bands.map((band, i) => ({ ...band, settings: { ...band.settings, fan: 10 * i } })),
    },
  };
  const found = {
    ...verdictOf(run, unitsOf(run), [], {}),
    value: 210,
    fromValue: 206,
    toValue: 214,
    advice: "narrow" as const,
  };
  const next = nextRound(both, { printer: ladle, spool: saffron }, found);
  if (!next.ok) throw new Error(next.message);
  // 225, 220, 215, 210 … were tried with 0, 10, 20, 30 … %.
  const fans = next.value.bands.map(({ settings }) => [settings.nozzleTemperature, settings.fan]);
  expect(fans).toContainEqual([210, 30]);
  expect(fans).toContainEqual([214, 20]);
});

test("the next round keeps base, heights and order; it is refused where nothing finer can be seen, or nothing lies further out", () => {
  const said = (advice: "narrow" | "higher" | "mark-more", value = 210) => ({
    ...verdict({
      guide: { rule: "best", uses: [] },
      setting: "nozzleTemperature",
      bands: [],
      readers: [],
      weights: {},
    }),
    ...{ value, fromValue: value - 4, toValue: value + 4, advice },
  });
  const finer = nextRound(trial, { printer: ladle, spool: saffron }, said("narrow"));
  if (!finer.ok) throw new Error(finer.message);
  expect(finer.value.baseHeightMm).toBe(trial.plan.baseHeightMm);
  expect(finer.value.bands.every(({ heightMm }) => heightMm === trial.plan.bands[0].heightMm)).toBe(true);
  const values = finer.value.bands.map(({ settings }) => settings.nozzleTemperature!);
  expect(values).toEqual([...values].sort((a, b) => b - a));
  expect(values[0] - values[1]).toBe(2);
  expect(nextRound({ ...trial, plan: finer.value }, { printer: ladle, spool: saffron }, said("narrow"))).toMatchObject({
    ok: false,
  });
  const further = nextRound(trial, { printer: ladle, spool: saffron }, said("higher", 225));
  if (!further.ok) throw new Error(further.message);
  // The label ends at 225 °C and is stretched by 10 °C at most; the last two values are tried again.
  const beyond = further.value.bands.map(({ settings }) => settings.nozzleTemperature!);
  expect(beyond).toEqual([234, 231, 228, 225, 220]);
  expect(
    nextRound(trial, { printer: { ...ladle, highestNozzleC: 226 }, spool: saffron }, said("higher", 225)),
  ).toMatchObject({ ok: false });
  expect(nextRound(trial, { printer: ladle, spool: saffron }, said("mark-more"))).toMatchObject({ ok: false });
});
