/**
 * The least value that is good, or the most: what must be good gets better one way, so a curve that only rises is laid through the marks
 * (isotonic regression, pool adjacent violators; Barlow et al. 1972), and the value is where it crosses the bar.
 */
import type { SettingKey } from "../../settings";
import { clamp } from "../../units";
import { polynomialFit } from "../fit";
import type { ScoredBand } from "../score";
import type { Found } from "../found";
import { sayRange } from "../say";

/** The second best answer is good enough: "a hair or two", "faint". */
export const BAR = 3;
/** Who wants speed takes the third best. */
const LOWEST_BAR = 2;

/** The lowest value from which on every must is good. */
export function leastValue(bands: readonly ScoredBand[], setting: SettingKey): Found {
  return crossing(bands, setting, 1, BAR);
}

/** The highest value up to which every must is good; `speed` above 1 lowers the bar. */
export function mostValue(bands: readonly ScoredBand[], setting: SettingKey, speed: number): Found {
  return crossing(bands, setting, -1, clamp(BAR + 1 - speed, LOWEST_BAR, BAR + 0.5));
}

/** @param towards 1 where higher values are better in what must be good, -1 where lower ones are */
function crossing(all: readonly ScoredBand[], setting: SettingKey, towards: 1 | -1, bar: number): Found {
  const sorted = [...all].sort((a, b) => (a.value - b.value) * towards);
  const judged = sorted.map((band) => band.must ?? band.score!);
  // Too much of a good thing is bad again (a long retraction leaves gaps): what counts is the way up to the best.
  const best = judged.lastIndexOf(Math.max(...judged));
  const way = sorted.slice(0, best + 1);
  const rising = isotonic(judged.slice(0, best + 1));
  const spread = noiseOf(all, way, rising);
  const first = rising.findIndex((score) => score >= bar);
  const least = towards === 1 ? "lowest" : "highest";
  const [low, high] = [sorted[0].value, sorted[sorted.length - 1].value];
  const range = (a: number, b: number) => ({ fromValue: Math.min(a, b), toValue: Math.max(a, b) });
  if (first < 0) {
    return {
      value: way[way.length - 1].value,
      ...range(way[way.length - 1].value, high),
      sure: 0,
      why: "No band is good in everything that must be. Try values beyond the range, or settle first what comes before.",
      advice: towards === 1 ? "higher" : "lower",
    };
  }
  const isFlat = Math.max(...judged) - Math.min(...judged) < 1e-9;
  if (first === 0) {
    const value = way[0].value;
    return {
      value,
      ...range(value, isFlat ? high : way[Math.min(1, way.length - 1)].value),
      sure: isFlat ? 0 : 0.25,
      why: isFlat
        ? "All bands are alike: the range tells nothing. Try values further out."
        : `Already the ${least} value that was tried is good: try beyond it.`,
      advice: isFlat ? "mark-more" : towards === 1 ? "lower" : "higher",
    };
  }
  if (!isTold(judged)) {
    return {
      value: way[first].value,
      ...range(low, high),
      sure: 0,
      why: "The marks go up and down as chance would have it: no value stands out. Mark more, or try values further apart.",
      advice: "mark-more",
    };
  }
  const at = (level: number) => crossingAt(way, rising, level);
  // Half a mark below and above the bar have a say too: one lucky band does not pull the crossing to itself.
  const value = (at(bar - HALF_A_MARK) + at(bar) + at(bar + HALF_A_MARK)) / 3;
  const [from, to] = [at(bar - spread), at(bar + spread)];
  const step = Math.abs(high - low) / (sorted.length - 1);
  const width = Math.abs(to - from);
  return {
    value,
    ...range(from, to),
    sure: clamp(1 - width / Math.abs(high - low), 0, 1),
    why: `${sayRange(setting, Math.min(from, to), Math.max(from, to))} cannot be told apart; ${towards === 1 ? "less" : "more"} than that is no longer good.`,
    advice: step > 0 && width > step * WORTH_NARROWING ? "narrow" : "keep",
  };
}

const WORTH_NARROWING = 0.8;
const HALF_A_MARK = 0.5;
/** A slope is believed from so many of its standard errors on (Student's t for a handful of degrees of freedom is about 2.3). */
const BELIEVED = 2.3;

/** Whether the marks get better one way at all, rather than up and down as chance would have it. */
function isTold(judged: readonly number[]): boolean {
  const line = polynomialFit(
    judged.map((_, i) => i),
    judged,
    1,
  );
  if (!line || line.freedom < 1) return false;
  return line.coefficients[1] > BELIEVED * Math.sqrt(line.residualVariance * line.unscaled[1][1]);
}

/** The spread of one band's must: an eye's, or what the marks are off the rising curve, if that is more. */
function noiseOf(all: readonly ScoredBand[], way: readonly ScoredBand[], rising: readonly number[]): number {
  const eye = Math.sqrt(all.reduce((sum, one) => sum + one.spread ** 2, 0) / all.length);
  const off = way.reduce((sum, band, i) => sum + ((band.must ?? band.score!) - rising[i]) ** 2, 0);
  return Math.max(eye, Math.sqrt(off / way.length));
}

/** Where the rising curve comes to a level, between its points by a straight line; its ends where it never does. */
function crossingAt(way: readonly ScoredBand[], rising: readonly number[], level: number): number {
  const first = rising.findIndex((score) => score >= level);
  if (first < 0) return way[way.length - 1].value;
  if (first === 0) return way[0].value;
  const share = (level - rising[first - 1]) / (rising[first] - rising[first - 1]);
  return way[first - 1].value + share * (way[first].value - way[first - 1].value);
}

/** The rising sequence nearest to the given one, by least squares: neighbours that fall are drawn together to their mean. */
export function isotonic(values: readonly number[]): number[] {
  const pools: { mean: number; count: number }[] = [];
  for (const value of values) {
    let pool = { mean: value, count: 1 };
    while (pools.length > 0 && pools[pools.length - 1].mean > pool.mean) {
      const before = pools.pop()!;
      const count = before.count + pool.count;
      pool = { mean: (before.mean * before.count + pool.mean * pool.count) / count, count };
    }
    pools.push(pool);
  }
  return pools.flatMap(({ mean, count }) => new Array<number>(count).fill(mean));
}
