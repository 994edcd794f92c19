/** Fits against a general-purpose statistics package, and against examples worked by hand. */
import { jStat } from "jstat";
import { polynomialFit, valueAt } from "@/core/reading/fit";
import { nominalValue, proportionalValue } from "@/core/reading/from-lengths";
import { normalBelow, normalQuantile, studentBelow, studentBeyond } from "@/core/reading/belief/chance";
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

test("points that do not fix a polynomial give none", () => {
  expect(polynomialFit([1, 1, 1], [1, 2, 3], 1)).toBeNull();
  expect(polynomialFit([1, 2], [1, 2], 2)).toBeNull();
  expect(valueAt([1, 2, 3], 2)).toBe(17);
});

test.each([1, 2, 3, 4, 7, 30])("Student's t with %i degrees of freedom is the package's", (freedom) => {
  for (const share of [0.5, 0.1, 0.05, 0.01]) {
    const beyond = jStat.studentt.inv(1 - share / 2, freedom);
    expect(studentBeyond(share, freedom) / beyond).toBeCloseTo(1, 4);
    expect(studentBelow(beyond, freedom)).toBeCloseTo(1 - share / 2, 6);
    expect(studentBelow(-beyond, freedom)).toBeCloseTo(share / 2, 6);
  }
});

test("Student's t as tables have it: 12.706 and 2.228 for 95 of 100 (NIST/SEMATECH e-Handbook, 1.3.6.7.2)", () => {
  expect(studentBeyond(0.05, 1)).toBeCloseTo(12.706, 3);
  expect(studentBeyond(0.05, 10)).toBeCloseTo(2.228, 3);
});

test.each([-3, -1.2, 0, 0.4, 2.5])("the normal distribution below %d is the package's, and turned round", (z) => {
  expect(normalBelow(z)).toBeCloseTo(jStat.normal.cdf(z, 0, 1), 6);
  expect(normalQuantile(jStat.normal.cdf(z, 0, 1))).toBeCloseTo(z, 6);
});

test("flow from a one-wall box, by a straight line: 0.450 mm wanted", () => {
  const bands = [96, 98, 100, 102, 104].map((value, i) => ({ band: i + 1, value, counts: true }));
  // Walls of 0.46 mm at 100 %, 0.0046 mm a percent: 0.45 mm is at 100 − 0.01 / 0.0046 = 97.826 %.
  const measures = bands.map(({ band, value }) => ({ band, what: "wall", valuesMm: [value * 0.0046, value * 0.0046] }));
  expect(nominalValue(bands, measures, 0.45, "flowFactor")!.value).toBeCloseTo(97.826, 3);
});

test("a range of lengths is Fieller's: at its ends the line lies t standard errors off what is wanted", () => {
  const bands = [92, 96, 100, 104, 108].map((value, i) => ({ band: i + 1, value, counts: true }));
  const off = [0.012, -0.01, 0.008, -0.014, 0.006];
  const measures = bands.map(({ band, value }, i) => ({ band, what: "wall", valuesMm: [value * 0.0046 + off[i]] }));
  const found = nominalValue(bands, measures, 0.46, "flowFactor")!;
  const x = bands.map(({ value }) => value);
  const y = measures.map(({ valuesMm }) => valuesMm[0]);
  for (const end of [found.fromValue, found.toValue]) {
    // The line's height at an end with its standard error, by the package; the noise has three readings' worth of a calliper's 0.015 mm.
    const other = jStat.models.ols(
      y,
      x.map((value) => [1, value - end]),
    );
    const freedom = x.length - 2 + 3;
    const sigma = Math.sqrt((other.t.sigmaHat ** 2 * (x.length - 2) + 3 * 0.015 ** 2) / freedom);
    const error = other.t.se[0] * (sigma / other.t.sigmaHat);
    expect(Math.abs(other.coef[0] - 0.46) / error).toBeCloseTo(jStat.studentt.inv(0.95, freedom), 3);
  }
});

test("what was really laid, from tracks of several widths: the slope of measured over asked for", () => {
  const asked = [0.4, 0.5, 0.6, 0.7, 0.8];
  const told = { value: 100, counts: true, score: null, must: null, spread: 0.5 };
  const bands = asked.map((wantedMm, i) => ({ ...told, band: i + 1, wantedMm }));
  // A bead of h·(w − h) + π·h²/4 with 4 % too much of it, h = 0.2 mm, is w' = (1.04·A − π·h²/4) / h + h wide (arithmetic).
  const [h, round] = [0.2, (Math.PI * 0.2 * 0.2) / 4];
  const laid = (w: number) => (1.04 * (h * (w - h) + round) - round) / h + h;
  const measures = bands.map(({ band, wantedMm }) => ({ band, what: "track", valuesMm: [laid(wantedMm)] }));
  expect(proportionalValue(bands, measures, "flowFactor")!.value).toBeCloseTo(100 / 1.04, 9);
  const noise = [0.01, -0.012, 0.008, -0.006, 0.004];
  const noisy = measures.map((one, i) => ({ ...one, valuesMm: [one.valuesMm[0] + noise[i]] }));
  const other = jStat.models.ols(
    noisy.map(({ valuesMm }) => valuesMm[0]),
    asked.map((w) => [1, w]),
  );
  const found = proportionalValue(bands, noisy, "flowFactor")!;
  expect(found.value).toBeCloseTo(100 / other.coef[1], 9);
  // b ± t standard errors, turned round: the larger slope gives the lower value.
  const freedom = asked.length - 2 + 3;
  const sigma = Math.sqrt((other.t.sigmaHat ** 2 * (asked.length - 2) + 3 * 0.015 ** 2) / freedom);
  const error = other.t.se[1] * (sigma / other.t.sigmaHat) * jStat.studentt.inv(0.95, freedom);
  expect(found.fromValue).toBeCloseTo(100 / (other.coef[1] + error), 3);
  expect(found.toValue).toBeCloseTo(100 / (other.coef[1] - error), 3);
  expect(proportionalValue(bands, measures.slice(0, 1), "flowFactor")).toBeNull();
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
