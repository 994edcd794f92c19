/** Two settings at once: what is said of them against hidden truths of other shapes, and how it goes on from there. */
import { surfaceAt, surfacesOver } from "@/core/reading/belief/surfaces";
import { verdict } from "@/core/reading/verdict";
import { trialKindFor } from "@/core/trials";
import { nextRound } from "@/core/trials/next-round";
import { ladle, saffron, trialOfKind } from "../helpers/demo";
import { pairsOf } from "./hidden-surface";
import type { Mark } from "@/core/reading/criterion";

const options = { across: "flowFactor", up: "nozzleTemperature" };
const guide = trialKindFor("matrix").reads(options);
const trial = trialOfKind("matrix", ladle, saffron, {}, options);
const across = trial.plan.sideBySide!.values;
const up = trial.plan.bands.map(({ settings }) => settings.nozzleTemperature!);
const cells = up.flatMap((along) => across.map((value) => ({ value, along })));

/** The verdict on marks that follow from a rule, in all respects or in some of them. */
function read(rule: (value: number, along: number) => number, keys = guide.uses.map(({ key }) => key)) {
  const bands = cells.map((cell, i) => ({ ...cell, band: i + 1, counts: true }));
  const marks = bands.flatMap(({ band, value, along }) =>
    keys.map((criterion) => ({
      band,
      criterion,
      mark: Math.min(4, Math.max(0, Math.round(rule(value, along)))) as Mark,
    })),
  );
  const readers = [{ marks, measures: [] }];
  return verdict({ guide, setting: "flowFactor", along: "nozzleTemperature", bands, readers, weights: {} });
}

const hill = (flow: number, c: number) => (value: number, along: number) =>
  4 - ((value - flow) / 5) ** 2 - ((along - c) / 9) ** 2;

test("of worlds with other shapes the ranges of both settings hold the best pair in 85 to 99 of 100, and keep is hardly ever wrong", () => {
  const pieces = 160;
  const { told, across: beside, along, keeps, wrongKeeps, beyond, beyondSaid } = pairsOf(pieces, 9001);
  expect(told).toBeGreaterThan(0.9 * pieces);
  expect(beside / told).toBeGreaterThan(0.85);
  expect(along / told).toBeGreaterThan(0.85);
  expect(beside / told).toBeLessThan(0.99);
  expect(wrongKeeps).toBeLessThanOrEqual(Math.max(1, 0.03 * keeps));
  expect(beyondSaid).toBeGreaterThanOrEqual(0.9 * beyond);
});

test("the best pair is found where both are best, with a range for each", () => {
  const found = read(hill(100, 210));
  expect(found.rule).toBe("surface");
  expect(Math.abs(found.value! - 100)).toBeLessThanOrEqual(5);
  expect(Math.abs(found.along!.value - 210)).toBeLessThanOrEqual(5);
  expect(found.along!.fromValue).toBeLessThanOrEqual(found.along!.value);
  expect(found.along!.toValue).toBeGreaterThanOrEqual(found.along!.value);
  // The cell that is best is likelier good than one in the corner.
  const good = (value: number, along: number) =>
    found.bands[cells.findIndex((cell) => cell.value === value && cell.along === along)].good!;
  expect(good(across[2], up[2])).toBeGreaterThan(good(across[0], up[0]));
});

test("what lies beyond an end is said of the setting that it is beyond of, and the next round goes there", () => {
  const found = read(hill(114, 210));
  expect(found.advice).toBe("higher");
  expect(found.why).toContain("flow factor is above");
  const next = nextRound(trial, { printer: ladle, spool: saffron }, found);
  if (!next.ok) throw new Error(next.message);
  expect(Math.max(...next.value.sideBySide!.values)).toBeGreaterThan(Math.max(...across));
  const hotter = read(hill(100, 236));
  expect(hotter.along!.chanceAbove).toBeGreaterThan(0.3);
  expect(hotter.why).toContain("nozzle temperature is above");
  const warm = nextRound(trial, { printer: ladle, spool: saffron }, hotter);
  if (!warm.ok) throw new Error(warm.message);
  const temperatures = warm.value.bands.map(({ settings }) => settings.nozzleTemperature!);
  expect(Math.max(...temperatures)).toBeGreaterThan(Math.max(...up));
});

test("a setting that makes no difference is said to make none, and stays as it was in the next round", () => {
  const found = read((_, along) => 4 - ((along - 208) / 8) ** 2);
  expect(found.why).toContain("Flow factor makes no difference that can be seen here.");
  expect(found.toValue! - found.fromValue!).toBeGreaterThan(0.6 * (across[across.length - 1] - across[0]));
  const next = nextRound(trial, { printer: ladle, spool: saffron }, found);
  if (!next.ok) throw new Error(next.message);
  // No more cells than somebody wants to print and read.
  expect(next.value.bands.length).toBeLessThanOrEqual(6);
  expect(next.value.sideBySide!.values).toEqual(across);
  expect(next.value.bands.length).toBeGreaterThan(2);
  const span = (values: number[]) => Math.max(...values) - Math.min(...values);
  expect(span(next.value.bands.map(({ settings }) => settings.nozzleTemperature!))).toBeLessThan(span(up));
});

test("the question that tells most is one that nobody answered, and is named by its values", () => {
  const bands = cells.map((cell, i) => ({ ...cell, band: i + 1, counts: true }));
  const left = bands.find(({ value, along }) => value === across[2] && along === up[2])!;
  const [{ key }] = guide.uses;
  const rule = hill(100, 208);
  const marks = bands.flatMap(({ band, value, along }) =>
    band === left.band
      ? []
      : [{ band, criterion: key, mark: Math.min(4, Math.max(0, Math.round(rule(value, along)))) as Mark }],
  );
  const readers = [{ marks, measures: [] }];
  const found = verdict({ guide, setting: "flowFactor", along: "nozzleTemperature", bands, readers, weights: {} });
  expect(found.tellsMost).toEqual({ band: left.band, criterion: key });
  if (found.advice !== "keep") expect(found.why).toContain(`of ${across[2]} % at ${up[2]} °C next: it tells most`);
  expect(read(rule).tellsMost).toBeNull();
});

test("level marks say that nothing stands out; marks on one row alone say nothing", () => {
  expect(read(() => 3).advice).toBe("mark-more");
  const bands = cells.map((cell, i) => ({ ...cell, band: i + 1, counts: true }));
  const [{ key }] = guide.uses;
  const marks = bands.slice(0, across.length).map(({ band }) => ({ band, criterion: key, mark: 3 as const }));
  const readers = [{ marks, measures: [] }];
  const found = verdict({ guide, setting: "flowFactor", along: "nozzleTemperature", bands, readers, weights: {} });
  expect(found.value).toBeNull();
  expect(found.advice).toBe("mark-more");
});

test("of what is about as good, the least retraction is named, and the highest speed", () => {
  const of = (setting: "retractionLength" | "printSpeed", values: number[]) => {
    const own = trialKindFor("matrix").reads({ across: setting, up: "nozzleTemperature" });
    const bands = up
      .flatMap((along) => values.map((value) => ({ value, along })))
      .map((cell, i) => ({
        ...cell,
        band: i + 1,
        counts: true,
      }));
    // All is as good, but for the colder half.
    const marks = bands.flatMap(({ band, along }) =>
      own.uses.map(({ key }) => ({ band, criterion: key, mark: (along >= 210 ? 4 : 1) as Mark })),
    );
    const readers = [{ marks, measures: [] }];
    return verdict({ guide: own, setting, along: "nozzleTemperature", bands, readers, weights: {} });
  };
  expect(of("retractionLength", [1, 2, 3, 4, 5]).value).toBe(1);
  expect(of("printSpeed", [40, 60, 80, 100, 120]).value).toBe(120);
});

test("surfaces are hills, cones, slopes and levels whose figures say what they are", () => {
  const ends = { lowX: -0.45, highX: 1.45, lowY: -0.45, highY: 1.45 };
  const surfaces = surfacesOver(ends, true);
  // Shares of all add to one.
  const all = surfaces.logPrior.reduce((sum, log) => sum + Math.exp(log), 0);
  expect(all).toBeCloseTo(1, 6);
  // A hill is highest at its own place, and a mark lower one width away (its definition, by hand).
  const i = Array.from(surfaces.family).findIndex(
    (family, at) => family === 0 && surfaces.figures[at * 6 + 4] === 0 && Number.isFinite(surfaces.figures[at * 6 + 3]),
  );
  const [x, y, wide, , , top] = surfaces.figures.subarray(i * 6, i * 6 + 6);
  expect(surfaceAt(surfaces, i, x, y)).toBeCloseTo(top, 9);
  if (Number.isFinite(wide)) expect(surfaceAt(surfaces, i, x + wide, y)).toBeCloseTo(top - 1, 9);
});
