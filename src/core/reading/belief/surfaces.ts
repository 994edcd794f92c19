/**
 * How good something is, from 0 to 4, over the values of two settings: the surfaces that are believed in before anything was looked at.
 * A hill, round or drawn out along a slant, for two settings often make up for one another; a ridge that only one of them matters to;
 * better one way up to a level; level. Places are those of two lines (line.ts). Cautious guesses, no source; what they come to is checked
 * in worlds of other shapes (docs/reading.md, "How often it is right").
 */
import { diceOf } from "./chance";
import type { Curves } from "./curves";

/** Surfaces in columns: a family, and up to six figures of it. */
export interface Surfaces extends Pick<Curves, "count" | "logPrior"> {
  family: Uint8Array;
  figures: Float64Array;
}

const FIGURES = 6;
const HILL = 0;
const RISE_ACROSS = 1;
const RISE_UP = 2;
const LEVEL = 3;
const CONE = 4;

const SHARES = { hill: 0.6, ridge: 0.16, rise: 0.18, level: 0.06 };
/** So far from its top a hill has lost a mark, in shares of the range. */
const WIDTHS = [0.16, 0.32, 0.64];
/** A hill's top moves across by so much on the way up the whole range. */
const SLANTS = [-0.7, 0, 0.7];
/** A straight hill is so much more likely than a slanting one. */
const STRAIGHT = 3;
/** A hill is no more than so much longer than wide. */
const MOST_UNLIKE = 2.5;
const TOPS = [2.4, 3.4, 4.2, 5];
const SOFTNESS = [0.02, 0.09, 0.2];
const LOWS = [0, 1.3];
const HIGHS = [2.6, 3.5, 4.3];
const LEVELS = [0, 0.5, 1, 1.5, 2, 2.5, 3, 3.5, 4];

/** How finely tops are looked for: so many places a range. */
const FINE = 8;
const COARSE = 4;

interface Draft {
  family: number;
  figures: number[];
  /** What it shares its likelihood with. */
  share: keyof typeof SHARES;
  weight: number;
}

export interface SurfaceEnds {
  lowX: number;
  highX: number;
  lowY: number;
  highY: number;
}

/** All surfaces over what settings allow, in no order: every so many of them are like all. */
export function surfacesOver(ends: SurfaceEnds, isFine: boolean): Surfaces {
  const drafts = shuffled([...hills(ends, isFine ? FINE : COARSE), ...slopes(), ...levels()]);
  const sums = new Map<Draft["share"], number>();
  for (const { share, weight } of drafts) sums.set(share, (sums.get(share) ?? 0) + weight);
  const figures = new Float64Array(drafts.length * FIGURES);
  drafts.forEach((draft, i) => figures.set(draft.figures, i * FIGURES));
  return {
    count: drafts.length,
    family: Uint8Array.from(drafts, ({ family }) => family),
    figures,
    logPrior: Float64Array.from(drafts, ({ share, weight }) => Math.log((SHARES[share] * weight) / sums.get(share)!)),
  };
}

/** From one end to the other, so many places a range. */
function places(low: number, high: number, parts: number): number[] {
  const first = Math.ceil(low * parts - 1e-9);
  const last = Math.floor(high * parts + 1e-9);
  return Array.from({ length: last - first + 1 }, (_, i) => (first + i) / parts);
}

function* hills({ lowX, highX, lowY, highY }: SurfaceEnds, parts: number): Generator<Draft> {
  const [xs, ys] = [places(lowX, highX, parts), places(lowY, highY, parts)];
  for (const top of TOPS) {
    for (const x of xs) {
      for (const wide of WIDTHS) {
        yield { family: HILL, figures: [x, 0, wide, Infinity, 0, top], share: "ridge", weight: 1 };
        for (const y of ys) {
          for (const high of WIDTHS) {
            for (const slant of SLANTS) {
              if (Math.max(wide, high) / Math.min(wide, high) > MOST_UNLIKE) continue;
              const weight = slant === 0 ? STRAIGHT : 1;
              const figures = [x, y, wide, high, slant, top];
              yield { family: HILL, figures, share: "hill", weight };
              yield { family: CONE, figures, share: "hill", weight };
            }
          }
        }
      }
    }
    for (const y of ys) {
      for (const high of WIDTHS) {
        yield { family: HILL, figures: [0, y, Infinity, high, 0, top], share: "ridge", weight: 1 };
      }
    }
  }
}

function* slopes(): Generator<Draft> {
  for (const family of [RISE_ACROSS, RISE_UP]) {
    for (const place of places(-0.2, 1.2, 2 * FINE)) {
      for (const soft of SOFTNESS) {
        for (const low of LOWS) {
          for (const high of HIGHS) {
            // Half a place on, so that a step lies between two values that were tried.
            const at = place + 0.25 / FINE;
            yield { family, figures: [at, soft, low, high], share: "rise", weight: 1 };
            yield { family, figures: [at, soft, high, low], share: "rise", weight: 1 };
          }
        }
      }
    }
  }
}

function* levels(): Generator<Draft> {
  for (const level of LEVELS) yield { family: LEVEL, figures: [level], share: "level", weight: 1 };
}

function shuffled<T>(all: T[]): T[] {
  const dice = diceOf(SEED);
  for (let i = all.length - 1; i > 0; i--) {
    const other = Math.floor(dice() * (i + 1));
    [all[i], all[other]] = [all[other], all[i]];
  }
  return all;
}

const SEED = 611;

/** How good surface `i` is at a place: from 0, and above 4 where more than what is wanted is left over. */
export function surfaceAt({ family, figures }: Surfaces, i: number, x: number, y: number): number {
  const at = i * FIGURES;
  switch (family[i]) {
    case HILL: {
      const up = (y - figures[at + 1]) / figures[at + 3];
      const across = (x - figures[at] - figures[at + 4] * (y - figures[at + 1])) / figures[at + 2];
      return Math.max(0, figures[at + 5] - up * up - across * across);
    }
    case CONE: {
      const up = (y - figures[at + 1]) / figures[at + 3];
      const across = (x - figures[at] - figures[at + 4] * (y - figures[at + 1])) / figures[at + 2];
      return Math.max(0, figures[at + 5] - Math.sqrt(up * up + across * across));
    }
    case RISE_ACROSS:
    case RISE_UP: {
      const place = family[i] === RISE_UP ? y : x;
      const [low, high] = [figures[at + 2], figures[at + 3]];
      return low + (high - low) / (1 + Math.exp((figures[at] - place) / figures[at + 1]));
    }
    default:
      return figures[at];
  }
}
