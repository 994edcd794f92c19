/** Fits against a general-purpose statistics package, and against examples worked by hand. */
import { jStat } from "jstat";
import { polynomialFit, valueAt } from "@/core/reading/fit";
import { isotonic } from "@/core/reading/rules/threshold";
import { nominalValue, proportionalValue } from "@/core/reading/rules/nominal";
import { scoreBands } from "@/core/reading/score";
import { verdict } from "@/core/reading/verdict";

const x = [195, 200, 205, 210, 215, 220, 225].map((value) => (value - 210) / 5);
const y = [2.1, 2.9, 3.6, 3.9, 3.2, 2.4, 1.3];

test.each([1, 2, 3])("degree %i: coefficients and standard errors are the package's", (degree) => {
  const fit = polynomialFit(x, y, degree)!;
  const other = jStat.models.ols(
    y,
    x.map((at) => Array.from({ length: degree + 1 }, (_, power) => at ** power)),
  );
  fit.coefficients.forEach((coefficient, i) => expect(coefficient).toBeCloseTo(other.coef[i], 9));
  fit.unscaled.forEach((row, i) => expect(Math.sqrt(fit.residualVariance * row[i])).toBeCloseTo(other.t.se[i], 9));
});

test("weights count as repeated points do", () => {
  const weights = [1, 2, 3, 1, 1, 2, 1];
  const repeated = weights.flatMap((count, i) => Array.from({ length: count }, () => i));
  const fit = polynomialFit(x, y, 2, weights)!;
  const other = jStat.models.ols(
    repeated.map((i) => y[i]),
    repeated.map((i) => [1, x[i], x[i] ** 2]),
  );
  fit.coefficients.forEach((coefficient, i) => expect(coefficient).toBeCloseTo(other.coef[i], 9));
});

test("where weights only say what matters, the spread of what is found is that of many tries", () => {
  const weights = [0.2, 0.6, 1, 1, 0.6, 0.3, 0.1];
  let state = 7;
  const die = () => (state = (state * 16807) % 2147483647) / 2147483647;
  const bends = Array.from({ length: 4000 }, () => {
    const noise = y.map(() => Array.from({ length: 12 }, die).reduce((sum, one) => sum + one, -6));
    return polynomialFit(x, noise, 2, weights)!.coefficients[2];
  });
  const expected = Math.sqrt(polynomialFit(x, y, 2, weights)!.equalNoise[2][2]);
  expect(jStat.stdev(bends, true) / expected).toBeCloseTo(1, 1);
  const plain = polynomialFit(x, y, 2)!;
  expect(plain.equalNoise[2][2]).toBeCloseTo(plain.unscaled[2][2], 12);
});

test("points that do not fix a polynomial give none", () => {
  expect(polynomialFit([1, 1, 1], [1, 2, 3], 1)).toBeNull();
  expect(polynomialFit([1, 2], [1, 2], 2)).toBeNull();
  expect(valueAt([1, 2, 3], 2)).toBe(17);
});

test("a curve that only rises: neighbours that fall are drawn together", () => {
  // By hand: 3 and 2 become 2.5; then 6, 5 and 4 become 5.
  expect(isotonic([1, 3, 2, 6, 5, 4, 7])).toEqual([1, 2.5, 2.5, 5, 5, 5, 7]);
  expect(isotonic([3, 2, 1])).toEqual([2, 2, 2]);
});

test("flow from a one-wall box, by a straight line: 0.450 mm wanted", () => {
  const bands = [96, 98, 100, 102, 104].map((value, i) => ({
    ...{ band: i + 1, value, counts: true, score: null, must: null, spread: 0.5 },
  }));
  // Walls of 0.46 mm at 100 %, 0.0046 mm a percent: 0.45 mm is at 100 − 0.01 / 0.0046 = 97.826 %.
  const measures = bands.map(({ band, value }) => ({ band, what: "wall", valuesMm: [value * 0.0046, value * 0.0046] }));
  const found = nominalValue(bands, measures, 0.45, "%")!;
  expect(found.value).toBeCloseTo(97.826, 3);
  // With noise, the standard error of the crossing is that of the line there over its slope (error propagation to first order).
  const noise = [0.004, -0.006, 0.003, -0.002, 0.005, -0.001, -0.004, 0.006, 0.002, -0.005];
  let at = 0;
  const noisy = measures.map((one) => ({ ...one, valuesMm: one.valuesMm.map((mm) => mm + noise[at++]) }));
  const xs = noisy.flatMap(({ band, valuesMm }) => valuesMm.map(() => bands[band - 1].value));
  const ys = noisy.flatMap(({ valuesMm }) => valuesMm);
  const crossing = nominalValue(bands, noisy, 0.45, "%")!;
  // Seen from the crossing the line's constant is the height there, and its standard error is the package's.
  const other = jStat.models.ols(
    ys,
    xs.map((value) => [1, value - crossing.value]),
  );
  expect(other.coef[0]).toBeCloseTo(0.45, 9);
  const sigma = Math.max(other.t.sigmaHat, 0.005);
  const error = (other.t.se[0] * (sigma / other.t.sigmaHat)) / other.coef[1];
  expect((crossing.toValue - crossing.fromValue) / 4).toBeCloseTo(error, 6);
});

test("what was really laid, from tracks of several widths: the slope of measured over asked for", () => {
  const asked = [0.4, 0.5, 0.6, 0.7, 0.8];
  const told = { value: 100, counts: true, score: null, must: null, spread: 0.5 };
  const bands = asked.map((wantedMm, i) => ({ ...told, band: i + 1, wantedMm }));
  // A bead of h·(w − h) + π·h²/4 with 4 % too much of it, h = 0.2 mm, is w' = (1.04·A − π·h²/4) / h + h wide (arithmetic).
  const [h, round] = [0.2, (Math.PI * 0.2 * 0.2) / 4];
  const laid = (w: number) => (1.04 * (h * (w - h) + round) - round) / h + h;
  const measures = bands.map(({ band, wantedMm }) => ({ band, what: "track", valuesMm: [laid(wantedMm)] }));
  expect(proportionalValue(bands, measures, "%")!.value).toBeCloseTo(100 / 1.04, 9);
  const noise = [0.01, -0.012, 0.008, -0.006, 0.004];
  const noisy = measures.map((one, i) => ({ ...one, valuesMm: [one.valuesMm[0] + noise[i]] }));
  const other = jStat.models.ols(
    noisy.map(({ valuesMm }) => valuesMm[0]),
    asked.map((w) => [1, w]),
  );
  const found = proportionalValue(bands, noisy, "%")!;
  expect(found.value).toBeCloseTo(100 / other.coef[1], 9);
  expect((found.toValue - found.fromValue) / 4 / found.value).toBeCloseTo(other.t.se[1] / other.coef[1], 9);
  expect(proportionalValue(bands, measures.slice(0, 1), "%")).toBeNull();
});

test("a score is the weighted mean of what was marked; “cannot tell” counts for nothing", () => {
  const uses = [
    { key: "strings", weight: 1 },
    { key: "bond", weight: 2 },
    { key: "bridge", weight: 1 },
  ] as const;
  const marks = [
    { band: 1, criterion: "strings", mark: 4 },
    { band: 1, criterion: "bond", mark: 1 },
    { band: 1, criterion: "bridge", mark: null },
  ] as const;
  const [plain] = scoreBands([{ band: 1, value: 210, counts: true }], [marks], uses, {});
  expect(plain.score).toBeCloseTo((4 + 2 * 1) / 3, 12);
  const [strong] = scoreBands([{ band: 1, value: 210, counts: true }], [marks], uses, { strength: 0 });
  expect(strong.score).toBe(4);
  // Two readers are two readings, and are averaged.
  const [both] = scoreBands([{ band: 1, value: 210, counts: true }], [marks, [{ ...marks[0], mark: 2 }]], uses, {
    strength: 0,
  });
  expect(both.score).toBe(3);
});

test("weights move a verdict between looks and strength", () => {
  const bands = [195, 200, 205, 210, 215, 220, 225].map((value, i) => ({ band: 7 - i, value, counts: true }));
  const guide = {
    rule: "best" as const,
    uses: [
      { key: "strings" as const, weight: 1 },
      { key: "bond" as const, weight: 1 },
    ],
  };
  const marks = bands.flatMap(({ band, value }) => [
    {
      band,
      criterion: "strings" as const,
      mark: Math.max(0, Math.min(4, Math.round(4 - (value - 200) / 5))) as 0 | 1 | 2 | 3 | 4,
    },
    {
      band,
      criterion: "bond" as const,
      mark: Math.max(0, Math.min(4, Math.round(4 - (218 - value) / 5))) as 0 | 1 | 2 | 3 | 4,
    },
  ]);
  const said = (weights: object) =>
    verdict({ guide, setting: "nozzleTemperature", bands, readers: [{ marks, measures: [] }], weights }).value!;
  expect(said({ strength: 2, looks: 0.5 })).toBeGreaterThan(said({ strength: 0.5, looks: 2 }));
});

test("bands that were not printed or did not settle do not count", () => {
  const bands = [195, 200, 205, 210].map((value, i) => ({ band: i + 1, value, counts: i < 2 }));
  const marks = bands.map(({ band }) => ({ band, criterion: "strings" as const, mark: band as 1 | 2 | 3 | 4 }));
  const guide = { rule: "best" as const, uses: [{ key: "strings" as const, weight: 1 }] };
  const found = verdict({
    guide,
    setting: "nozzleTemperature",
    bands,
    readers: [{ marks, measures: [] }],
    weights: {},
  });
  expect(found).toMatchObject({ value: null, advice: "mark-more" });
  expect(found.why).toMatch(/Mark 1 more band/);
});
