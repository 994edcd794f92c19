/**
 * What is believed of a field of two settings: how much of the one is enough at each value of the other. A curve is laid over the whole
 * field at once: enough is t = t₀ + k·(along − s)², and below it the marks get worse, sharply or slowly.
 */
import type { CriterionKey } from "..";
import type { Use } from "../criterion";
import type { BandOnPiece, GivenMark } from "../score";
import { Answer, binOf } from "./answers";
import type { Curves } from "./curves";
import { diceOf } from "./chance";
import { believe } from "./draws";
import { Line, lineOf } from "./line";

export interface FieldBelief {
  across: Line;
  along: Line;
  /** By draw: the least that is good, and where along that is so. */
  least: Float64Array;
  alongAt: Float64Array;
  /** The chance that a cell is good, by its band. */
  good: Map<number, number>;
}

const BENDS = [0, 0.2, 0.5, 1, 2, 4];
const SOFTNESS = [0.001, 0.05, 0.12, 0.28];
const LOWS = [0, 1.3];
const HIGHS = [3.3, 4.2];
/** How finely a field is gone through; one of very many cells half as finely, so that it stays quick. */
const FINE = { across: 28, along: 12 };
const COARSE = { across: 14, along: 6 };
const MANY_CELLS = 150;
/** How far a least value may lie beyond what was tried, in shares of the range. */
const BEYOND = 0.4;

/** What the curves of a field say at a cell: columns of t₀, k, s, softness, low and high. */
interface Field {
  count: number;
  fineness: typeof FINE;
  t: Float64Array;
  bend: Float64Array;
  at: Float64Array;
  soft: Float64Array;
  low: Float64Array;
  high: Float64Array;
}

function fieldCurves(lowX: number, fineness: typeof FINE): Field {
  const { across, along } = fineness;
  const rows: number[][] = [];
  const first = Math.ceil(lowX * across);
  for (let i = first; i <= (1 + BEYOND) * across; i++) {
    for (const bend of BENDS) {
      for (let j = 0; j <= along; j++) {
        // Where nothing bends, no place along is different from another: one does.
        if (bend === 0 && j > 0) continue;
        for (const soft of SOFTNESS) {
          for (const low of LOWS) {
            for (const high of HIGHS) rows.push([(i + 0.5) / across, bend, j / along, soft, low, high]);
          }
        }
      }
    }
  }
  const column = (at: number) => Float64Array.from(rows, (row) => row[at]);
  return {
    count: rows.length,
    fineness,
    t: column(0),
    bend: column(1),
    at: column(2),
    soft: column(3),
    low: column(4),
    high: column(5),
  };
}

interface Made {
  key: string;
  field: Field;
  /** What the curves say in the cells, in tenths of a mark: `cells × count`. */
  bins: Uint8Array;
}

/** The curves of the field looked at last: with every mark the same ones are asked for again. */
let madeLast: Made | null = null;

function madeFor(lowX: number, xs: readonly number[], ss: readonly number[]): Made {
  const key = JSON.stringify([lowX, xs, ss]);
  if (madeLast?.key === key) return madeLast;
  const field = fieldCurves(lowX, xs.length > MANY_CELLS ? COARSE : FINE);
  const bins = new Uint8Array(field.count * xs.length);
  let next = 0;
  for (let cell = 0; cell < xs.length; cell++) {
    for (let i = 0; i < field.count; i++) {
      const away = ss[cell] - field.at[i];
      const enough = field.t[i] + field.bend[i] * away * away;
      const rise = 1 / (1 + Math.exp((enough - xs[cell]) / field.soft[i]));
      bins[next++] = binOf(field.low[i] + (field.high[i] - field.low[i]) * rise);
    }
  }
  madeLast = { key, field, bins };
  return madeLast;
}

/** Null where the cells do not span both settings. */
export function fieldBelief(
  cells: readonly BandOnPiece[],
  readers: readonly (readonly GivenMark[])[],
  uses: readonly Use<CriterionKey>[],
  asked: { bar: number; lowest: number },
): FieldBelief | null {
  const counting = cells.filter(({ counts, along }) => counts && along !== undefined);
  const values = new Set(counting.map(({ value }) => value));
  const alongs = new Set(counting.map(({ along }) => along!));
  if (values.size < 2 || alongs.size < 2) return null;
  const across = lineOf([...values], asked.lowest, Infinity);
  const along = lineOf([...alongs], -Infinity, Infinity);
  const must = uses.find((use) => use.must) ?? uses[0];
  const placeOf = new Map(counting.map(({ band }, place) => [band, place]));
  const answers: Answer[] = readers.flatMap((marks, reader) =>
    marks.flatMap(({ band, criterion, mark }) => {
      const place = placeOf.get(band);
      return criterion === must.key && mark !== null && place !== undefined ? [{ reader, place, mark }] : [];
    }),
  );
  if (answers.length === 0) return null;
  const lowX = Math.max(-BEYOND, across.lowX);
  const xs = counting.map(({ value }) => across.toX(value));
  const ss = counting.map((cell) => along.toX(cell.along!));
  const { field, bins } = madeFor(lowX, xs, ss);
  const curves: Pick<Curves, "count" | "logPrior"> = {
    count: field.count,
    // Level along is as likely as any one bend.
    logPrior: field.bend.map((bend) => -Math.log(field.count) + (bend === 0 ? Math.log(field.fineness.along) : 0)),
  };
  const { drawn } = believe(curves, bins, xs.length, [answers], { readers: readers.length });
  const dice = diceOf(SEED);
  const alongAt = Float64Array.from(drawn[0], (curve) =>
    field.bend[curve] === 0 ? dice() : clip(field.at[curve] + (dice() - 0.5) / field.fineness.along),
  );
  const least = Float64Array.from(
    drawn[0],
    (curve) => leastOf(field, curve, asked.bar) + (dice() - 0.5) / field.fineness.across,
  );
  const good = new Map(
    counting.map(({ band }, cell) => {
      const enough = drawn[0].reduce((sum, curve) => {
        const away = ss[cell] - field.at[curve];
        const needed = leastOf(field, curve, asked.bar) + field.bend[curve] * away * away;
        return sum + (xs[cell] >= needed ? 1 : 0);
      }, 0);
      return [band, enough / drawn[0].length];
    }),
  );
  return { across, along, least, alongAt, good };
}

/** Where a curve comes to the bar, at the value along that needs least: the logistic function turned round. */
function leastOf({ t, soft, low, high }: Field, curve: number, bar: number): number {
  return t[curve] + soft[curve] * Math.log((bar - low[curve]) / (high[curve] - bar));
}

const SEED = 4243;
const clip = (x: number) => Math.min(1, Math.max(0, x));
