/**
 * How good something is, from 0 to 4, along the values of a setting: the curves that the trade knows, with how likely each is before
 * anything was looked at. Places are those of a line (line.ts). The shares and widths are cautious guesses, no source; what they come to
 * is checked in worlds of other shapes (docs/reading.md, "How often it is right").
 */
import type { Line } from "./line";

/** A hill with straight sides, or round; better one way up to a level, or worse; level; a valley; two hills. */
const families = ["tent", "hill", "rise", "fall", "level", "valley", "twins"] as const;
type Family = (typeof families)[number];

/** Curves in columns: a family, and up to four figures of it. */
export interface Curves {
  count: number;
  family: Uint8Array;
  a: Float64Array;
  b: Float64Array;
  c: Float64Array;
  d: Float64Array;
  logPrior: Float64Array;
}

/** How likely a family is before anything was looked at; `isThreshold` where what is looked for is a threshold. */
const shares = (isThreshold: boolean): Record<Family, number> =>
  isThreshold
    ? { tent: 0.15, hill: 0.15, rise: 0.3, fall: 0.3, level: 0.06, valley: 0.02, twins: 0.02 }
    : { tent: 0.28, hill: 0.3, rise: 0.13, fall: 0.13, level: 0.1, valley: 0.03, twins: 0.03 };

/** So far from its top a hill has lost a mark, in shares of the range; Infinity: this side stays as it is. */
const WIDTHS = [0.07, 0.14, 0.28, 0.6, Infinity];
const TOPS = [2.2, 3.1, 4, 5];
/** Two sides of a hill are rather alike than not: so much less likely by step of WIDTHS between them, and never further apart than two. */
const UNLIKE = 0.6;
const MOST_UNLIKE = 2;
/** A place beyond what was tried is so likely beside one inside. */
const BEYOND_SHARE = 0.6;
/** From so sharp as any step to as blunt as half the range. */
const SOFTNESS = [0.001, 0.025, 0.07, 0.16];
const LOWS = [0, 1.3];
const HIGHS = [2.4, 3.3, 4.2];
const LEVELS = [0, 0.5, 1, 1.5, 2, 2.5, 3, 3.5, 4];
const BOTTOMS = [0, 1, 2];
/** So far from both ends lies the bottom of a valley. */
const VALLEY_EDGE = 0.2;
const TWIN_TOPS = [3, 4];
const TWIN_PLACES = [0, 0.14, 0.28, 0.42, 0.58, 0.72, 0.86, 1];

interface Draft {
  family: Family;
  figures: number[];
  weight: number;
}

/** All curves on a line; about 6,000 for eight values. */
export function curvesOn(line: Line, isThreshold: boolean): Curves {
  const drafts = [...hills(line), ...thresholds(line), ...others(line)];
  const sums = new Map<Family, number>();
  for (const { family, weight } of drafts) sums.set(family, (sums.get(family) ?? 0) + weight);
  const share = shares(isThreshold);
  const column = (pick: (draft: Draft) => number) => Float64Array.from(drafts, pick);
  return {
    count: drafts.length,
    family: Uint8Array.from(drafts, ({ family }) => families.indexOf(family)),
    a: column(({ figures }) => figures[0]),
    b: column(({ figures }) => figures[1] ?? 0),
    c: column(({ figures }) => figures[2] ?? 0),
    d: column(({ figures }) => figures[3] ?? 0),
    logPrior: column(({ family, weight }) => Math.log((share[family] * weight) / sums.get(family)!)),
  };
}

/** Places from one end of a line to the other: so many a range that a step of the values has two or three of them. */
const FEWEST_PLACES = 24;
const MOST_PLACES = 40;

export function placesOn({ values, lowX, highX }: Line): number[] {
  const steps = values.length - 1;
  const parts = Math.max(FEWEST_PLACES, Math.min(MOST_PLACES, 3 * steps));
  const first = Math.ceil(lowX * parts - 1e-9);
  const last = Math.floor(highX * parts + 1e-9);
  return Array.from({ length: last - first + 1 }, (_, i) => (first + i) / parts);
}

const isInside = (x: number) => x >= 0 && x <= 1;
const placeWeight = (x: number) => (isInside(x) ? 1 : BEYOND_SHARE);

function* hills(line: Line): Generator<Draft> {
  for (const at of placesOn(line)) {
    for (const [left, leftWide] of WIDTHS.entries()) {
      for (const [right, rightWide] of WIDTHS.entries()) {
        if (leftWide === Infinity && rightWide === Infinity) continue;
        if (leftWide !== Infinity && rightWide !== Infinity && Math.abs(left - right) > MOST_UNLIKE) continue;
        // Of a hill beyond the range one side is seen, and the other says nothing.
        if (!isInside(at) && (left !== right || leftWide === Infinity)) continue;
        for (const top of TOPS) {
          const weight = placeWeight(at) * Math.exp(-UNLIKE * Math.abs(left - right)) * (isInside(at) ? 1 : 3);
          yield { family: "tent", figures: [at, leftWide, rightWide, top], weight };
          yield { family: "hill", figures: [at, leftWide, rightWide, top], weight };
        }
      }
    }
  }
}

function* thresholds(line: Line): Generator<Draft> {
  const places = placesOn(line);
  // Half a place on, so that a step never falls on a value that was tried: between two of them it may lie anywhere.
  const half = (places[1] - places[0]) / 2;
  for (const place of places) {
    const at = place + half;
    for (const soft of SOFTNESS) {
      for (const low of LOWS) {
        for (const high of HIGHS) {
          if (high - low < 1) continue;
          const weight = placeWeight(at);
          yield { family: "rise", figures: [at, soft, low, high], weight };
          yield { family: "fall", figures: [at, soft, low, high], weight };
        }
      }
    }
  }
}

function* others(line: Line): Generator<Draft> {
  for (const level of LEVELS) yield { family: "level", figures: [level], weight: 1 };
  // A valley is one where both its sides were tried: else it is a slope.
  for (const at of placesOn(line).filter((x) => x >= VALLEY_EDGE && x <= 1 - VALLEY_EDGE)) {
    for (const width of WIDTHS.slice(0, 3)) {
      for (const bottom of BOTTOMS) yield { family: "valley", figures: [at, width, bottom], weight: 1 };
    }
  }
  for (const [i, first] of TWIN_PLACES.entries()) {
    for (const second of TWIN_PLACES.slice(i + 2)) {
      for (const width of WIDTHS.slice(0, 3)) {
        for (const top of TWIN_TOPS) yield { family: "twins", figures: [first, second, width, top], weight: 1 };
      }
    }
  }
}

/** How good all curves are at some places: `count × places`. */
export function qualitiesAt(curves: Curves, places: readonly number[]): Float32Array {
  const qualities = new Float32Array(curves.count * places.length);
  let at = 0;
  for (let i = 0; i < curves.count; i++) for (const x of places) qualities[at++] = qualityAt(curves, i, x);
  return qualities;
}

/** How good curve `i` is at a place: from 0, and above 4 where more than what is wanted is left over. */
export function qualityAt({ family, a, b, c, d }: Curves, i: number, x: number): number {
  switch (family[i]) {
    case 0: {
      const away = x - a[i];
      return Math.max(0, d[i] - (away < 0 ? -away / b[i] : away / c[i]));
    }
    case 1: {
      const away = (x - a[i]) / (x < a[i] ? b[i] : c[i]);
      return Math.max(0, d[i] - away * away);
    }
    case 2:
      return c[i] + (d[i] - c[i]) / (1 + Math.exp((a[i] - x) / b[i]));
    case 3:
      return c[i] + (d[i] - c[i]) / (1 + Math.exp((x - a[i]) / b[i]));
    case 4:
      return a[i];
    case 5: {
      const away = (x - a[i]) / b[i];
      return c[i] + away * away;
    }
    default: {
      const first = (x - a[i]) / c[i];
      const second = (x - b[i]) / c[i];
      return Math.max(0, d[i] - Math.min(first * first, second * second));
    }
  }
}
