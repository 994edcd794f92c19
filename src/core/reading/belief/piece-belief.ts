/** What is believed of a piece whose values stand one above the other, from all marks of all readers. */
import type { CriterionKey } from "..";
import type { Use } from "../criterion";
import { BandOnPiece, GivenMark, weightOf, Weights } from "../score";
import { Answer, answersIn } from "./answers";
import { Curves, curvesOn, placesOn, qualitiesAt, qualityAt } from "./curves";
import { believe, binsAt } from "./draws";
import { Line, lineOf } from "./line";
import { Contradiction, contradictionIn, quantile, tellingOf } from "./summary";
import { seenAlong, Wanted } from "./wanted";

export interface PieceBelief {
  line: Line;
  /** Where it is best, by draw, in places of the line, rising. */
  best: Float64Array;
  /** The score along the values that were tried: the middle of it, and where 9 of 10 draws lie between. */
  curve: { value: number; low: number; middle: number; high: number }[];
  /** The mean score by place of the line, where it was tried. */
  means: { x: number; score: number }[];
  /** The mean of the highest score that was tried, by draw: what may be lost by taking another value. */
  highestScore: number;
  /** The answer not given yet that would tell most; null where all were given. */
  tellsMost: { band: number; criterion: CriterionKey } | null;
  contradiction: { band: number; criterion: CriterionKey } | null;
  /** Whether anything was marked on the lowest and on the highest value. */
  marked: { lowest: boolean; highest: boolean };
  /** Criteria of the kind that nobody marked anywhere. */
  unseen: CriterionKey[];
  /** How good a value would be in each respect that was marked, in one draw of the belief: what a further piece may show. */
  wouldBe(draw: number, value: number): { criterion: CriterionKey; quality: number }[];
  /** The noise of a single look, in marks. */
  spread: number;
}

/** A range holds what lies between these shares of the draws: worlds of other shapes find 9 of 10 and more in it (docs/reading.md). */
export const LOW_SHARE = 0.12;
export const HIGH_SHARE = 0.88;
/** A score lies between these shares of the draws in 9 of 10. */
const LOW_SCORE = 0.05;
const HIGH_SCORE = 0.95;

interface Request {
  bands: readonly BandOnPiece[];
  readers: readonly (readonly GivenMark[])[];
  uses: readonly Use<CriterionKey>[];
  weights: Weights;
  wanted: Wanted;
  /** What the setting allows. */
  lowest: number;
  highest: number;
  /** For what is only foreseen. */
  isRough?: boolean;
}

/** Null where the marks are on fewer than two values. */
export function pieceBelief(request: Request): PieceBelief | null {
  const { bands, readers, uses, wanted, lowest, highest } = request;
  const counting = bands.filter(({ counts }) => counts);
  if (new Set(counting.map(({ value }) => value)).size < 2) return null;
  const line = lineOf(
    counting.map(({ value }) => value),
    lowest,
    highest,
  );
  const answered = answersIn(counting, readers, uses);
  const told = uses.flatMap((use, i) => (answered[i].length > 0 && counts(use, request) ? [i] : []));
  if (told.length === 0) return null;
  const places = counting.map(({ value }) => line.toX(value));
  const { curves, bins, along, qualities } = curvesFor(line, wanted.what === "first", places);
  const criteria = told.map((i) => answered[i]);
  const hasMusts = told.some((i) => uses[i].must);
  const musts = told.map((i) => !hasMusts || Boolean(uses[i].must));
  const believed = believe(curves, bins, places.length, criteria, {
    readers: readers.length,
    isRough: request.isRough,
    musts: wanted.what === "first" ? musts.flatMap((must, i) => (must ? [i] : [])) : [],
  });
  const seen = seenAlong(qualities, believed, along, {
    weights: told.map((i) => weightOf(uses[i], request.weights) || (uses[i].must ? Number.EPSILON : 0)),
    musts,
    wanted,
  });
  const tried = along.flatMap((x, at) => (x < -EXACT_X || x > 1 + EXACT_X ? [] : [{ x, at }]));
  const column = new Float64Array(seen.best.length);
  const scoresAt = (at: number) => {
    for (let draw = 0; draw < column.length; draw++) column[draw] = seen.scores[draw * along.length + at];
    return Float64Array.from(column).sort();
  };
  const columns = tried.map(({ x, at }) => ({ x, sorted: scoresAt(at) }));
  let highestScores = 0;
  for (let draw = 0; draw < column.length; draw++) {
    highestScores += Math.max(...tried.map(({ at }) => seen.scores[draw * along.length + at]));
  }
  const tellsMost = mostTelling({ criteria, believed, curves, places, best: seen.best });
  const contradiction = contradictionIn(criteria, readers.length);
  const isMarked = (x: number) => criteria.some((answers) => answers.some(({ place }) => places[place] === x));
  const named = ({ criterion, place }: Contradiction) => ({
    band: counting[place].band,
    criterion: uses[told[criterion]].key,
  });
  return {
    line,
    best: Float64Array.from(seen.best).sort(),
    curve: columns.map(({ x, sorted }) => ({
      value: line.toValue(x),
      low: quantile(sorted, LOW_SCORE),
      middle: quantile(sorted, 0.5),
      high: quantile(sorted, HIGH_SCORE),
    })),
    means: columns.map(({ x, sorted }) => ({ x, score: sorted.reduce((sum, one) => sum + one, 0) / sorted.length })),
    highestScore: highestScores / column.length,
    tellsMost: tellsMost && named(tellsMost),
    contradiction: contradiction && named(contradiction),
    marked: { lowest: isMarked(Math.min(...places)), highest: isMarked(Math.max(...places)) },
    unseen: uses.flatMap((use, i) => (answered[i].length === 0 && counts(use, request) ? [use.key] : [])),
    wouldBe: (draw, value) =>
      told.map((i, c) => ({
        criterion: uses[i].key,
        quality: qualityAt(curves, believed.drawn[c][draw], line.toX(value)),
      })),
    spread: believed.spread,
  };
}

/** A place is this exact. */
const EXACT_X = 1e-6;

const counts = (use: Use<CriterionKey>, { weights }: Request) => Boolean(use.must) || weightOf(use, weights) > 0;

interface Made {
  key: string;
  curves: Curves;
  /** At the bands, in tenths of a mark. */
  bins: Uint8Array;
  /** Along the line. */
  along: number[];
  qualities: Float32Array;
}

/** The curves of the pieces looked at last: with every mark the same ones are asked for again. */
const made: Made[] = [];
const MOST_MADE = 4;

function curvesFor(line: Line, isThreshold: boolean, places: readonly number[]): Made {
  const key = JSON.stringify([isThreshold, line.values.length, line.lowX, line.highX, places]);
  const known = made.find((one) => one.key === key);
  if (known) return known;
  const curves = curvesOn(line, isThreshold);
  const along = placesOn(line);
  const one = { key, curves, bins: binsAt(curves, places), along, qualities: qualitiesAt(curves, along) };
  made.unshift(one);
  made.length = Math.min(made.length, MOST_MADE);
  return one;
}

interface Unasked {
  criteria: readonly (readonly Answer[])[];
  believed: ReturnType<typeof believe>;
  curves: Curves;
  places: readonly number[];
  best: Float64Array;
}

/** What nobody answered in a respect that somebody looked at: the question whose answer would tell most. */
function mostTelling({ criteria, believed, curves, places, best }: Unasked): Contradiction | null {
  const open = criteria.flatMap((answers, criterion) => {
    const answered = new Set(answers.map(({ place }) => place));
    return places.flatMap((_, place) => (answered.has(place) ? [] : [{ criterion, place }]));
  });
  if (open.length === 0) return null;
  const qualities = open.map(({ criterion, place }) =>
    Float32Array.from(believed.drawn[criterion], (curve) => qualityAt(curves, curve, places[place])),
  );
  const telling = tellingOf(best, qualities, { bias: 0, spread: believed.spread });
  return open[telling.indexOf(Math.max(...telling))];
}
