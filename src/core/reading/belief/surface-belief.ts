/** What is believed of a piece whose values stand side by side and one above the other, from all marks of all readers. */
import type { CriterionKey } from "..";
import type { Use } from "../criterion";
import { BandOnPiece, GivenMark, weightOf, Weights } from "../score";
import { Answer, answersIn, binOf } from "./answers";
import { diceOf } from "./chance";
import { believe } from "./draws";
import { Line, lineOf } from "./line";
import { contradictionIn, Question, tellingOf } from "./summary";
import { surfaceAt, Surfaces, surfacesOver } from "./surfaces";

export interface SurfaceBelief {
  across: Line;
  along: Line;
  /** Where it is best, by draw, in places of the two lines. */
  bestX: Float64Array;
  bestY: Float64Array;
  /** Of the values that were tried, the two at which the mean score is highest (or as good, and further towards what is wanted). */
  tried: { x: number; y: number; score: number };
  /** How far the mean score changes over all values of one setting, where the other is at its best of what was tried, in marks. */
  changesAcross: number;
  changesAlong: number;
  /** The chance that a cell is about as good as the best there is, by its band. */
  good: Map<number, number>;
  /** The answer not given yet that would tell most of both settings; null where all were given. */
  tellsMost: { band: number; criterion: CriterionKey } | null;
  contradiction: { band: number; criterion: CriterionKey } | null;
  /** Criteria of the kind that nobody marked anywhere. */
  unseen: CriterionKey[];
}

interface Request {
  cells: readonly BandOnPiece[];
  readers: readonly (readonly GivenMark[])[];
  uses: readonly Use<CriterionKey>[];
  weights: Weights;
  /** From this mark on a must is good. */
  bar: number;
  /** Of what is about as good across, the lowest or the highest is wanted. */
  towards?: "low" | "high";
  /** What the settings allow. */
  ends: { across: { lowest: number; highest: number }; along: { lowest: number; highest: number } };
}

/** A belief looks so far beyond what was tried, in shares of the range. */
const BEYOND = 0.45;
/** A field of more cells than this is gone through half as finely, so that it stays quick. */
const MANY_CELLS = 120;
/** More than is wanted counts so little: of what is all as wanted, the middle is taken. */
const BEYOND_WANTED = 0.05;
const WANTED = 4;
/** Scores nearer than this are alike; where an end of them is wanted, so near. */
const ALIKE = 0.02;
const ABOUT_AS_GOOD = 0.25;
/** A cell that loses no more than this, in marks, is about as good as the best. */
const ALMOST = 0.5;
/** What a must lacks of being good counts so much more than its share of the score. */
const MUST_WEIGHS = 2;
/** No surface here is quite like a real one: so much of what each of many cells says is believed, found by worlds of other shapes. */
const TRUST = 0.4;
/** Places a range at which draws are held against each other. */
const PLACES = 12;

/** Null where the marks do not span both settings. */
export function surfaceBelief(request: Request): SurfaceBelief | null {
  const { cells, readers, uses, weights, bar, towards, ends } = request;
  const counting = cells.filter(({ counts, along }) => counts && along !== undefined);
  const values = [...new Set(counting.map(({ value }) => value))];
  const alongs = [...new Set(counting.map(({ along }) => along!))];
  if (values.length < 2 || alongs.length < 2) return null;
  const across = lineOf(values, ends.across.lowest, ends.across.highest);
  const along = lineOf(alongs, ends.along.lowest, ends.along.highest);
  const answered = answersIn(counting, readers, uses);
  const matters = (use: Use<CriterionKey>) => Boolean(use.must) || weightOf(use, weights) > 0;
  const told = uses.flatMap((use, i) => (answered[i].length > 0 && matters(use) ? [i] : []));
  if (
    told.length === 0 ||
    !spansBoth(
      told.flatMap((i) => answered[i]),
      counting,
    )
  )
    return null;
  const at = counting.map((cell) => ({ x: across.toX(cell.value), y: along.toX(cell.along!) }));
  const { surfaces, bins } = madeFor(
    {
      lowX: Math.max(-BEYOND, across.lowX),
      highX: Math.min(1 + BEYOND, across.highX),
      lowY: Math.max(-BEYOND, along.lowX),
      highY: Math.min(1 + BEYOND, along.highX),
    },
    at,
  );
  const criteria = told.map((i) => answered[i]);
  const { drawn, spread } = believe(surfaces, bins, at.length, criteria, { readers: readers.length, trust: TRUST });
  const shares = told.map((i) => weightOf(uses[i], weights) || Number.EPSILON);
  const all = shares.reduce((sum, share) => sum + share, 0);
  const scoreOf = (draw: number, x: number, y: number) => {
    let score = 0;
    for (let c = 0; c < told.length; c++) {
      const quality = surfaceAt(surfaces, drawn[c][draw], x, y);
      score += (shares[c] / all) * (quality > WANTED ? WANTED + BEYOND_WANTED * (quality - WANTED) : quality);
      if (uses[told[c]].must && quality < bar) score -= MUST_WEIGHS * (bar - quality);
    }
    return score;
  };
  const draws = drawn[0].length;
  const { tops, ...best } = bestOf(draws, scoreOf, { across, along, towards });
  const good = new Map<number, number>();
  const means = counting.map((cell, i) => {
    let sum = 0;
    let enough = 0;
    for (let draw = 0; draw < draws; draw++) {
      const score = scoreOf(draw, at[i].x, at[i].y);
      sum += score;
      if (score >= tops[draw] - ALMOST) enough++;
    }
    good.set(cell.band, enough / draws);
    return { ...at[i], score: sum / draws };
  });
  const contradiction = contradictionIn(criteria, readers.length);
  const named = ({ criterion, place }: Question) => ({
    band: counting[place].band,
    criterion: uses[told[criterion]].key,
  });
  const tried = bestTried(means, towards);
  const tellsMost = mostTelling(criteria, at, best, spread, (criterion, draw, { x, y }) =>
    surfaceAt(surfaces, drawn[criterion][draw], x, y),
  );
  const changeOf = (own: readonly { score: number }[]) => {
    const scores = own.map(({ score }) => score);
    return Math.max(...scores) - Math.min(...scores);
  };
  return {
    across,
    along,
    ...best,
    tried,
    changesAcross: changeOf(means.filter(({ y }) => y === tried.y)),
    changesAlong: changeOf(means.filter(({ x }) => x === tried.x)),
    good,
    tellsMost: tellsMost && named(tellsMost),
    contradiction: contradiction && named(contradiction),
    unseen: uses.flatMap((use, i) => (answered[i].length === 0 && matters(use) ? [use.key] : [])),
  };
}

/** Of more questions than this every so many are looked at: neighbours tell much the same. */
const MOST_QUESTIONS = 200;

/** What nobody answered in a respect that somebody looked at: the question whose answer would narrow both settings most. */
function mostTelling(
  criteria: readonly (readonly Answer[])[],
  at: readonly { x: number; y: number }[],
  { bestX, bestY }: { bestX: Float64Array; bestY: Float64Array },
  spread: number,
  qualityAt: (criterion: number, draw: number, place: { x: number; y: number }) => number,
): Question | null {
  const open = criteria.flatMap((answers, criterion) => {
    const answered = new Set(answers.map(({ place }) => place));
    return at.flatMap((_, place) => (answered.has(place) ? [] : [{ criterion, place }]));
  });
  if (open.length === 0) return null;
  const every = Math.ceil(open.length / MOST_QUESTIONS);
  const asked = open.filter((_, i) => i % every === 0);
  const qualities = asked.map(({ criterion, place }) =>
    Float32Array.from(bestX, (_, draw) => qualityAt(criterion, draw, at[place])),
  );
  const eye = { bias: 0, spread };
  const [ofX, ofY] = [tellingOf(bestX, qualities, eye), tellingOf(bestY, qualities, eye)];
  const telling = ofX.map((one, i) => one + ofY[i]);
  return asked[telling.indexOf(Math.max(...telling))];
}

/** Whether anything was marked on two values of each setting. */
function spansBoth(answers: readonly Answer[], counting: readonly BandOnPiece[]): boolean {
  const marked = answers.map(({ place }) => counting[place]);
  return new Set(marked.map(({ value }) => value)).size > 1 && new Set(marked.map(({ along }) => along)).size > 1;
}

interface Made {
  key: string;
  surfaces: Surfaces;
  /** In the cells, in tenths of a mark: `cells × count`. */
  bins: Uint8Array;
}

/** The surfaces of the piece looked at last: with every mark the same ones are asked for again. */
let madeLast: Made | null = null;

function madeFor(ends: Parameters<typeof surfacesOver>[0], at: readonly { x: number; y: number }[]): Made {
  const key = JSON.stringify([ends, at]);
  if (madeLast?.key === key) return madeLast;
  const surfaces = surfacesOver(ends, at.length <= MANY_CELLS);
  const bins = new Uint8Array(surfaces.count * at.length);
  let next = 0;
  for (const { x, y } of at)
    for (let i = 0; i < surfaces.count; i++) bins[next++] = binOf(surfaceAt(surfaces, i, x, y));
  madeLast = { key, surfaces, bins };
  return madeLast;
}

/** Where each draw is best: any of the places that are alike, or the one of them that lies furthest towards what is wanted. */
function bestOf(
  draws: number,
  scoreOf: (draw: number, x: number, y: number) => number,
  { across, along, towards }: { across: Line; along: Line; towards?: "low" | "high" },
): { bestX: Float64Array; bestY: Float64Array; tops: Float64Array } {
  const line = ({ lowX, highX }: Line) => {
    const low = Math.ceil(Math.max(-BEYOND, lowX) * PLACES);
    const high = Math.floor(Math.min(1 + BEYOND, highX) * PLACES);
    return Array.from({ length: high - low + 1 }, (_, i) => (low + i) / PLACES);
  };
  const [xs, ys] = [line(across), line(along)];
  const scores = new Float64Array(xs.length * ys.length);
  const bestX = new Float64Array(draws);
  const bestY = new Float64Array(draws);
  const tops = new Float64Array(draws);
  const dice = diceOf(SEED);
  for (let draw = 0; draw < draws; draw++) {
    let top = -Infinity;
    let next = 0;
    for (const y of ys) {
      for (const x of xs) {
        const score = scoreOf(draw, x, y);
        scores[next++] = score;
        if (score > top) top = score;
      }
    }
    tops[draw] = top;
    const least = top - (towards ? ABOUT_AS_GOOD : ALIKE);
    let chosen = -1;
    let alike = 0;
    for (let i = 0; i < scores.length; i++) {
      if (scores[i] < least) continue;
      const by = chosen < 0 ? 0 : (i % xs.length) - (chosen % xs.length);
      const isFurther = towards === "low" ? by < 0 : towards === "high" ? by > 0 : false;
      if (chosen < 0 || isFurther) {
        chosen = i;
        alike = 1;
      } else if (!towards || by === 0) {
        alike++;
        if (dice() * alike < 1) chosen = i;
      }
    }
    bestX[draw] = xs[chosen % xs.length] + (dice() - 0.5) / PLACES;
    bestY[draw] = ys[Math.floor(chosen / xs.length)] + (dice() - 0.5) / PLACES;
  }
  return { bestX, bestY, tops };
}

const SEED = 4711;

/** The cell of the highest mean score, or of those about as good the one furthest towards what is wanted. */
function bestTried(
  means: readonly { x: number; y: number; score: number }[],
  towards: "low" | "high" | undefined,
): { x: number; y: number; score: number } {
  const top = means.reduce((best, one) => (one.score > best.score ? one : best));
  if (!towards) return top;
  const about = means.filter(({ score }) => score >= top.score - ABOUT_AS_GOOD);
  const sign = towards === "low" ? 1 : -1;
  return about.reduce((best, one) =>
    sign * one.x < sign * best.x - 1e-9 || (Math.abs(one.x - best.x) < 1e-9 && one.score > best.score) ? one : best,
  );
}
