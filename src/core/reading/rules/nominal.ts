/** The value at which what is measured is what was wanted: a straight line through all readings, turned round. */
import { plainNumber } from "../../units";
import { polynomialFit } from "../fit";
import type { ScoredBand } from "../score";
import type { Found, Measured } from "../found";

/** Two standard errors to each side hold about 95 of 100 truths. */
const STANDARD_ERRORS = 2;
/** Half a hundredth of a millimetre is what a calliper shows. */
const FINEST_MM = 0.005;

/**
 * With y = a + b·x through the readings, the value sought is x = (wanted − a) / b; its standard error follows from those of a and b
 * (error propagation to first order). Null with fewer than two bands or a line that does not rise.
 */
export function nominalValue(
  bands: readonly ScoredBand[],
  measures: readonly Measured[],
  wantedMm: number,
  unit: string,
): Found | null {
  const points = measures.flatMap(({ band, valuesMm }) => {
    const own = bands.find((one) => one.band === band && one.counts);
    return own ? valuesMm.map((mm) => ({ x: own.value, y: mm })) : [];
  });
  const values = [...new Set(points.map(({ x }) => x))].sort((a, b) => a - b);
  if (values.length < 2) return null;
  const middle = points.reduce((sum, { x }) => sum + x, 0) / points.length;
  const fit = polynomialFit(
    points.map(({ x }) => x - middle),
    points.map(({ y }) => y),
    1,
  );
  if (!fit || !(fit.coefficients[1] > 0)) return null;
  const [a, b] = fit.coefficients;
  const offset = (wantedMm - a) / b;
  const variance = Math.max(Number.isNaN(fit.residualVariance) ? 0 : fit.residualVariance, FINEST_MM ** 2);
  const [[aa, ab], [, bb]] = fit.unscaled;
  const error = Math.sqrt(variance * (aa + 2 * offset * ab + offset * offset * bb)) / b;
  const value = middle + offset;
  const [low, high] = [values[0], values[values.length - 1]];
  const half = STANDARD_ERRORS * error;
  const isPast = value < low || value > high;
  return {
    value,
    fromValue: value - half,
    toValue: value + half,
    sure: Math.max(0, 1 - (2 * half) / (high - low)) * (isPast ? 0.5 : 1),
    why: `By a straight line through ${points.length} readings the wall is ${plainNumber(wantedMm, 3)} mm thick at ${plainNumber(value, 1)} ± ${plainNumber(half, 1)} ${unit}.`,
    advice: value < low ? "lower" : value > high ? "higher" : "keep",
  };
}

/**
 * The value for pieces that were all printed with one, each asked for another width: with y = a + b·x through measured over asked for, b is
 * what was really laid per what was told, for a bead grows in width as it grows in volume (h·(w − h) + π·h²/4 is straight in w; the round
 * sides go into a). The value sought is told / b. Null with fewer than two widths or a line that does not rise.
 */
export function proportionalValue(
  bands: readonly ScoredBand[],
  measures: readonly Measured[],
  unit: string,
): Found | null {
  const points = measures.flatMap(({ band, valuesMm }) => {
    const own = bands.find((one) => one.band === band && one.counts);
    return own?.wantedMm === undefined ? [] : valuesMm.map((mm) => ({ x: own.wantedMm!, y: mm, told: own.value }));
  });
  if (new Set(points.map(({ x }) => x)).size < 2) return null;
  const fit = polynomialFit(
    points.map(({ x }) => x),
    points.map(({ y }) => y),
    1,
  );
  if (!fit || !(fit.coefficients[1] > 0)) return null;
  const [, slope] = fit.coefficients;
  const variance = Math.max(Number.isNaN(fit.residualVariance) ? 0 : fit.residualVariance, FINEST_MM ** 2);
  const share = Math.sqrt(variance * fit.unscaled[1][1]) / slope;
  const value = points[0].told / slope;
  const half = STANDARD_ERRORS * value * share;
  return {
    value,
    fromValue: value - half,
    toValue: value + half,
    sure: Math.max(0, 1 - STANDARD_ERRORS * share * SURE_BY),
    why: `By a straight line through ${points.length} readings ${plainNumber(slope * 100, 1)} % of what is told is laid: right is ${plainNumber(value, 1)} ± ${plainNumber(half, 1)} ${unit}.`,
    advice: "keep",
  };
}

/** Two standard errors of a tenth of the value are no certainty at all. */
const SURE_BY = 10;
