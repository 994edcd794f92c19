/**
 * The answer that lengths give: a straight line through all that was measured, turned round. By the normal linear model with a noise that is
 * not known: what is not known of the line has Student's t, and the noise starts from a calliper's, which counts as a few readings
 * (a scaled inverse χ² prior; Gelman et al., Bayesian Data Analysis, 3rd ed. 2013, 3.2 and 14.2).
 */
import { settingFor, SettingKey } from "../settings";
import { plainNumber, roundTo } from "../units";
import { studentBelow, studentBeyond } from "./belief/chance";
import { Fit, polynomialFit } from "./fit";
import type { Advice, Found, Measured } from "./found";
import type { BandOnPiece } from "./score";

/** What the same hand reads off the same wall differs by so much, mm. Common practice, no source. */
const CALLIPER_MM = 0.015;
/** What a band has of its own, and all readings of it share, mm. Common practice, no source. */
const BAND_MM = 0.008;
/** … both of which count as so many readings beside those that were taken. */
const READINGS_BEFORE = 3;
/** Fewer readings a band than this are taken again before another piece is printed. */
const READINGS_A_BAND = 3;
/** The range holds 9 of 10: Student's t beyond it in so large a share on both sides together. */
const OUTSIDE = 0.1;
/** A range that is wider than so many usual steps to each side is worth more readings. */
const NARROW_STEPS = 1.25;

interface Point {
  x: number;
  y: number;
  band: number;
}

/** What is known of the line: how far off it may be at a place, with so many degrees of freedom. */
interface Known {
  fit: Fit;
  variance: number;
  freedom: number;
  /** Mean of the places: the line is laid from there. */
  middle: number;
  points: readonly Point[];
}

/**
 * Noise from all readings, or from how far the bands' means are off the line where that is more: what one band has of its own, all readings
 * of it share.
 */
function lineThrough(points: readonly Point[]): Known | null {
  if (new Set(points.map(({ x }) => x)).size < 2) return null;
  const middle = points.reduce((sum, { x }) => sum + x, 0) / points.length;
  const all = fitOf(points, middle, CALLIPER_MM ** 2);
  const bands = [...new Set(points.map(({ band }) => band))].map((band) => {
    const own = points.filter((point) => point.band === band);
    return { band, x: own[0].x, y: own.reduce((sum, { y }) => sum + y, 0) / own.length };
  });
  if (bands.length === points.length) return all && { ...all, points };
  const means = fitOf(bands, middle, (CALLIPER_MM ** 2 * bands.length) / points.length + BAND_MM ** 2);
  if (!all || !means) return null;
  const errorOf = ({ fit, variance }: Omit<Known, "points">) => variance * fit.unscaled[1][1];
  return { ...(errorOf(means) > errorOf(all) ? means : all), points };
}

function fitOf(points: readonly Omit<Point, "band">[], middle: number, before: number): Omit<Known, "points"> | null {
  const fit = polynomialFit(
    points.map(({ x }) => x - middle),
    points.map(({ y }) => y),
    1,
  );
  if (!fit || !(fit.coefficients[1] > 0)) return null;
  const squares = fit.freedom > 0 ? fit.residualVariance * fit.freedom : 0;
  const freedom = Math.max(0, fit.freedom) + READINGS_BEFORE;
  return { fit, variance: (squares + READINGS_BEFORE * before) / freedom, freedom, middle };
}

const pointsOf = (
  bands: readonly BandOnPiece[],
  measures: readonly Measured[],
  xOf: (band: BandOnPiece) => number | undefined,
): Point[] =>
  measures.flatMap(({ band, valuesMm }) => {
    const own = bands.find((one) => one.band === band && one.counts);
    const x = own && xOf(own);
    return x === undefined ? [] : valuesMm.map((y) => ({ x, y, band }));
  });

/**
 * Where the line comes to what is wanted: x = (wanted − a) / b. Its range by Fieller's theorem (1954), which is exact for a ratio of two that
 * are normally distributed: all x with (a + b·x − wanted)² ≤ t²·variance of that. Null with fewer than two bands or a line that does not rise.
 */
export function nominalValue(
  bands: readonly BandOnPiece[],
  measures: readonly Measured[],
  wantedMm: number,
  setting: SettingKey,
): Found | null {
  const line = lineThrough(pointsOf(bands, measures, ({ value }) => value));
  if (!line) return null;
  const { fit, variance, freedom, middle, points } = line;
  const [a, b] = fit.coefficients;
  const [[aa, ab], [, bb]] = fit.unscaled;
  const value = middle + (wantedMm - a) / b;
  /** The chance that the value sought lies below x: that the line is higher there than wanted. */
  const chanceBelow = (x: number) => {
    const d = x - middle;
    const error = Math.sqrt(variance * (aa + 2 * d * ab + d * d * bb));
    return studentBelow((a + b * d - wantedMm) / error, freedom);
  };
  const t = studentBeyond(OUTSIDE, freedom);
  const [from, to] = fieller({ a: a - wantedMm, b, aa, ab, bb, k: t * t * variance });
  const values = [...new Set(points.map(({ x }) => x))].sort((one, other) => one - other);
  const [low, high] = [values[0], values[values.length - 1]];
  const { unit, step, lowest, highest } = settingFor(setting);
  const range = { fromValue: Math.max(lowest, middle + from), toValue: Math.min(highest, middle + to) };
  const isNarrow = range.toValue - range.fromValue <= 2 * NARROW_STEPS * step;
  const chances = { chanceBelow: chanceBelow(low), chanceAbove: 1 - chanceBelow(high) };
  return {
    ...noMarks,
    ...chances,
    value,
    ...range,
    chanceBetween: (one, other) => Math.max(0, chanceBelow(other) - chanceBelow(one)),
    why: `By a straight line through ${points.length} readings the wall is ${plainNumber(wantedMm, 3)} mm thick at ${plainNumber(value, 1)} ${unit}, from ${sayEnds(range)} ${unit} in 9 of 10.${isNarrow ? "" : MEASURE_MORE}`,
    advice: chances.chanceBelow > BEYOND ? "lower" : chances.chanceAbove > BEYOND ? "higher" : adviceOn(isNarrow, line),
  };
}

/** The chance from which on the value is looked for beyond an end: a straight line leads a little way further by itself. */
const BEYOND = 0.5;
const MEASURE_MORE = " Measure again, on more bands or more often: the hand's own scatter is most of it.";
const noMarks = { tellsMost: null, others: [], curve: [] };
const sayEnds = ({ fromValue, toValue }: { fromValue: number; toValue: number }) =>
  `${plainNumber(roundTo(fromValue, 1), 1)} to ${plainNumber(roundTo(toValue, 1), 1)}`;

/** Few readings want more of them; enough that still scatter want another piece. */
function adviceOn(isNarrow: boolean, { points }: Known): Advice {
  const bands = new Set(points.map(({ band }) => band)).size;
  if (points.length < bands * READINGS_A_BAND) return "mark-more";
  return isNarrow ? "keep" : "narrow";
}

interface Ratio {
  a: number;
  b: number;
  aa: number;
  ab: number;
  bb: number;
  k: number;
}

/** The places d with (a + b·d)² ≤ k·(aa + 2·ab·d + bb·d²): between the roots, or everything where b cannot be told from 0. */
function fieller({ a, b, aa, ab, bb, k }: Ratio): [number, number] {
  const square = b * b - k * bb;
  if (square <= 0) return [-Infinity, Infinity];
  const half = a * b - k * ab;
  const rest = a * a - k * aa;
  const root = Math.sqrt(Math.max(0, half * half - square * rest));
  return [(-half - root) / square, (-half + root) / square];
}

/**
 * The value for pieces that were all printed with one, each asked for another width: with y = a + b·x through measured over asked for, b is
 * what was really laid per what was set, for a bead grows in width as it grows in volume (h·(w − h) + π·h²/4 is straight in w; the round
 * sides go into a). The value sought is set / b. Null with fewer than two widths or a line that does not rise.
 */
export function proportionalValue(
  bands: readonly BandOnPiece[],
  measures: readonly Measured[],
  setting: SettingKey,
): Found | null {
  const line = lineThrough(pointsOf(bands, measures, ({ wantedMm }) => wantedMm));
  if (!line) return null;
  const { fit, variance, freedom, points } = line;
  const set = bands[0].value;
  const slope = fit.coefficients[1];
  const error = Math.sqrt(variance * fit.unscaled[1][1]);
  const off = studentBeyond(OUTSIDE, freedom) * error;
  const { unit, step, lowest, highest } = settingFor(setting);
  const range = {
    fromValue: Math.max(lowest, set / (slope + off)),
    toValue: Math.min(highest, slope > off ? set / (slope - off) : Infinity),
  };
  /** The value sought lies below x where more than set / x is laid. */
  const chanceBelow = (x: number) => studentBelow((slope - set / x) / error, freedom);
  const isNarrow = range.toValue - range.fromValue <= 2 * NARROW_STEPS * step;
  return {
    ...noMarks,
    value: set / slope,
    ...range,
    chanceBetween: (one, other) => Math.max(0, chanceBelow(other) - chanceBelow(one)),
    // All were printed with one value: there is no end that it could lie beyond.
    chanceBelow: 0,
    chanceAbove: 0,
    why: `By a straight line through ${points.length} readings ${plainNumber(slope * 100, 1)} % of what is asked for is laid: right is ${plainNumber(set / slope, 1)} ${unit}, from ${sayEnds(range)} ${unit} in 9 of 10.${isNarrow ? "" : MEASURE_MORE}`,
    advice: adviceOn(isNarrow, line),
  };
}
