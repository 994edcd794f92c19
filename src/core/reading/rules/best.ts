/** Where the score is highest: a parabola through the best band and its neighbours, so that two good neighbours give a value between them. */
import type { SettingKey } from "../../settings";
import { clamp } from "../../units";
import { Fit, polynomialFit, valueAt } from "../fit";
import { HIGHEST_MARK } from "../criterion";
import type { ScoredBand } from "../score";
import type { Found } from "../found";
import { sayRange } from "../say";

/** Neighbours this many mean steps away still have a say; nearer ones have more (tricube weights, Cleveland 1979). */
const LEAST_REACH_STEPS = 3.5;
/** Of many bands, those within so large a share of the range to each side: finer bands tell less each. */
const REACH_SHARE = 0.6;
/** A bend is believed from so many of its standard errors on (Student's t for a few degrees of freedom is about 2). */
const BELIEVED = 2;
/** Scores that differ by less than this many spreads cannot be told apart. */
const TOLD_APART = 1;

/** The best value of a reading with three told bands or more. */
export function bestValue(bands: readonly ScoredBand[], setting: SettingKey): Found {
  const sorted = [...bands].sort((a, b) => a.value - b.value);
  const low = sorted[0].value;
  const high = sorted[sorted.length - 1].value;
  const step = (high - low) / (sorted.length - 1);
  const near = peakOf(sorted);
  const reach = Math.max(LEAST_REACH_STEPS, REACH_SHARE * (sorted.length - 1));
  const local = sorted.filter(({ value }) => Math.abs(value - near) < reach * step);
  const x = local.map(({ value }) => (value - near) / step);
  const y = local.map(({ score }) => score!);
  const weights = x.map((at) => tricube(at / reach));
  const parabola = polynomialFit(x, y, 2, weights);
  const line = polynomialFit(x, y, 1, weights);
  const noise = noiseOf(sorted, parabola);
  const bend = parabola ? parabola.coefficients[2] : 0;
  const bendError = parabola ? noise * Math.sqrt(parabola.equalNoise[2][2]) : Infinity;
  if (parabola && bend < -BELIEVED * bendError) {
    const [, slope] = parabola.coefficients;
    const vertex = -slope / (2 * bend);
    const value = near + clamp(vertex, x[0], x[x.length - 1]) * step;
    // Within so much of the top a score cannot be told from it: c·w² = δ.
    const half = Math.sqrt((TOLD_APART * noise) / -bend) * step;
    const isPastLow = near + vertex * step <= low + step * AT_EDGE && local[0].value === low;
    const isPastHigh = near + vertex * step >= high - step * AT_EDGE && local[local.length - 1].value === high;
    if (isPastLow || isPastHigh) return atEdge(isPastLow ? low : high, isPastLow, half);
    const range = { fromValue: Math.max(low, value - half), toValue: Math.min(high, value + half) };
    const sure =
      clamp(1 - (range.toValue - range.fromValue) / (high - low), 0, 1) *
      levelOf(valueAt(parabola.coefficients, clamp(vertex, x[0], x[x.length - 1])));
    return {
      value,
      ...range,
      sure,
      why: `${sayRange(setting, range.fromValue, range.toValue)} cannot be told apart; on both sides of it the piece gets worse.`,
      advice: half > step * WORTH_NARROWING ? "narrow" : "keep",
    };
  }
  const slope = line ? line.coefficients[1] : 0;
  const slopeError = line ? noise * Math.sqrt(line.equalNoise[1][1]) : Infinity;
  if (Math.abs(slope) > BELIEVED * slopeError) return atEdge(slope < 0 ? low : high, slope < 0, step);
  return {
    value: near,
    fromValue: low,
    toValue: high,
    sure: 0,
    why: "The marks go up and down as chance would have it: no value stands out. Mark more, or try values further apart.",
    advice: "mark-more",
  };
}

/** Nearer to the end of the range than this, in steps, the best may as well lie beyond it. */
const AT_EDGE = 0.25;
/** A range wider than this, in steps to each side, is worth another round. */
const WORTH_NARROWING = 0.6;

function atEdge(value: number, isLow: boolean, half: number): Found {
  return {
    value,
    fromValue: isLow ? value : value - half,
    toValue: isLow ? value + half : value,
    sure: 0.25,
    why: `It is best at the ${isLow ? "lowest" : "highest"} value that was tried: ${isLow ? "lower" : "higher"} ones may be better still.`,
    advice: isLow ? "lower" : "higher",
  };
}

const tricube = (share: number) => (Math.abs(share) >= 1 ? 0 : (1 - Math.abs(share) ** 3) ** 3);

/** How good the best is, 0 to 1: of a bad best nobody is sure. */
const levelOf = (score: number) => clamp(score / HIGHEST_MARK, 0, 1);

/** Where three neighbours together are highest: one lucky band does not pull the parabola away. */
function peakOf(sorted: readonly ScoredBand[]): number {
  let best = { sum: -Infinity, value: sorted[0].value };
  sorted.forEach(({ value, score }, i) => {
    const before = sorted[i - 1]?.score ?? score! - 0.25;
    const after = sorted[i + 1]?.score ?? score! - 0.25;
    const sum = before + 2 * score! + after;
    if (sum > best.sum) best = { sum, value };
  });
  return best.value;
}

/** The spread of a band's score: an eye's, or what the points are off the curve, if that is more. */
function noiseOf(sorted: readonly ScoredBand[], parabola: Fit | null): number {
  const eye = Math.sqrt(sorted.reduce((sum, { spread }) => sum + spread * spread, 0) / sorted.length);
  const off = parabola && parabola.freedom > 1 ? Math.sqrt(parabola.residualVariance) : 0;
  return Math.max(eye, off);
}
