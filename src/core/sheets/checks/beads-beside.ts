/** Do beads that lie side by side touch, and no more? Places every half millimetre are held against those of other strokes near them. */
import type { Finding } from "../../findings/finding";
import { laysMaterial, MoveKind } from "../../gcode/moves";
import { beadWidthMm, filamentAreaMm2 } from "../../material/bead";
import { plainNumber } from "../../units";
import { rowName, SheetCheck, SheetContext } from "./check";

/** Beads that overlap more than this are pressed into one another. By the design: a fifth of their width. */
const MOST_OVERLAP = 0.2;
/** Further apart than this they are not meant to touch; in widths. */
const APART_FROM = 1.1;
const APART_TO = 1.6;
/** So long must they run apart to be worth a word, in widths: strokes that only pass one another do not. */
const APART_WIDTHS = 10;
/** And so long overlap: where rings touch they do so in one place. */
const OVERLAP_WIDTHS = 2;
const STEP_MM = 0.5;
/** Places are looked at every half millimetre: a bead's own hundredth is not seen. */
const ROUNDING = 0.01;
const MOST_LAYERS = 12;
const MOST_PLACES = 60_000;
/** Beads side by side run within so much of the same direction (cosine). */
const SIDE_BY_SIDE = 0.95;
/** Along one stroke, places nearer than this many widths are its own next ones. */
const OWN_WIDTHS = 5;

interface Places {
  count: number;
  x: Float32Array;
  y: Float32Array;
  dx: Float32Array;
  dy: Float32Array;
  width: Float32Array;
  /** How far along everything laid in the layer, mm. */
  along: Float32Array;
  stroke: Uint32Array;
  move: Uint32Array;
  /** Where along everything its stroke begins and ends, mm. */
  begins: Float32Array;
  ends: Float32Array;
}

interface Beside {
  layer: number;
  move: number;
  share: number;
}

export const beadsBeside: SheetCheck = {
  key: "beads-beside",
  passes: "Beads side by side touch, and do not press into one another.",
  run(context) {
    const { laid } = context;
    const layers = laid.tops.length;
    const every = Math.max(1, Math.ceil(layers / MOST_LAYERS));
    let tight: Beside | null = null;
    let loose: Beside | null = null;
    for (let layer = 0; layer < layers; layer += every) {
      const found = besideIn(placesOf(context, layer), layer);
      if (found.tight && (!tight || found.tight.share > tight.share)) tight = found.tight;
      if (found.loose && (!loose || found.loose.share > loose.share)) loose = found.loose;
    }
    const findings: Finding[] = [];
    const where = ({ layer, move }: Beside) => `${rowName(laid.fields[laid.row[move]])}, layer ${layer + 1}`;
    if (tight) {
      findings.push({
        check: "beads-beside",
        severity: "warn",
        where: where(tight),
        message: `Beads side by side overlap by ${plainNumber(tight.share * 100, 0)} % of their width; more than ${MOST_OVERLAP * 100} % presses the material out. Lay them further apart.`,
      });
    }
    if (loose) {
      findings.push({
        check: "beads-beside",
        severity: "warn",
        where: where(loose),
        message: `Beads side by side leave ${plainNumber(loose.share * 100, 0)} % of their width open between them: they do not touch.`,
      });
    }
    return findings;
  },
};

function placesOf({ laid, spool }: SheetContext, layer: number): Places {
  const { moves, layerStarts, tops, stroke } = laid;
  const filamentArea = filamentAreaMm2(spool.diameterMm);
  const heightMm = Math.max(0.05, layer === 0 ? tops[0] : Math.abs(tops[layer] - tops[layer - 1]));
  const places: Places = {
    count: 0,
    x: new Float32Array(MOST_PLACES),
    y: new Float32Array(MOST_PLACES),
    dx: new Float32Array(MOST_PLACES),
    dy: new Float32Array(MOST_PLACES),
    width: new Float32Array(MOST_PLACES),
    along: new Float32Array(MOST_PLACES),
    stroke: new Uint32Array(MOST_PLACES),
    move: new Uint32Array(MOST_PLACES),
    begins: new Float32Array(MOST_PLACES),
    ends: new Float32Array(MOST_PLACES),
  };
  const spans = new Map<number, { begins: number; ends: number }>();
  let along = 0;
  let next = 0;
  for (let i = Math.max(1, layerStarts[layer]); i < layerStarts[layer + 1]; i++) {
    const [mx, my] = [moves.x[i] - moves.x[i - 1], moves.y[i] - moves.y[i - 1]];
    const length = Math.sqrt(mx * mx + my * my);
    // Lines of a sparse fill are apart because they are meant to be.
    if (!laysMaterial(moves.kind[i]) || moves.kind[i] === MoveKind.sparse) {
      along += OWN_WIDTHS;
      next = along;
      continue;
    }
    if (length < 1e-4) continue;
    const [ux, uy] = [mx / length, my / length];
    const width = beadWidthMm((moves.filamentMm[i] * filamentArea) / length, heightMm);
    for (; next < along + length; next += STEP_MM) {
      if (places.count === MOST_PLACES) break;
      const n = places.count++;
      places.x[n] = moves.x[i - 1] + ux * (next - along);
      places.y[n] = moves.y[i - 1] + uy * (next - along);
      places.dx[n] = ux;
      places.dy[n] = uy;
      places.width[n] = width;
      places.along[n] = next;
      places.stroke[n] = stroke[i];
      places.move[n] = i;
    }
    const span = spans.get(stroke[i]);
    if (span) span.ends = along + length;
    else spans.set(stroke[i], { begins: along, ends: along + length });
    along += length;
  }
  for (let n = 0; n < places.count; n++) {
    const { begins, ends } = spans.get(places.stroke[n])!;
    places.begins[n] = begins;
    places.ends[n] = ends;
  }
  return places;
}

/** Neighbours of every place in a grid of cells as wide as the widest look. */
function besideIn(places: Places, layer: number): { tight: Beside | null; loose: Beside | null } {
  const { count, x, y, dx, dy, width, stroke, move } = places;
  let widest = 0;
  for (let i = 0; i < count; i++) widest = Math.max(widest, width[i]);
  const cellMm = Math.max(0.2, widest * APART_TO);
  const cells = new Map<number, number[]>();
  const keyOf = (column: number, row: number) => column * 100_003 + row;
  for (let i = 0; i < count; i++) {
    const key = keyOf(Math.floor(x[i] / cellMm), Math.floor(y[i] / cellMm));
    const cell = cells.get(key);
    if (cell) cell.push(i);
    else cells.set(key, [i]);
  }
  const pairs = new Map<number, Pair>();
  for (let i = 0; i < count; i++) {
    let nearest = Infinity;
    let other = -1;
    const [column, row] = [Math.floor(x[i] / cellMm), Math.floor(y[i] / cellMm)];
    for (let c = column - 1; c <= column + 1; c++) {
      for (let r = row - 1; r <= row + 1; r++) {
        for (const j of cells.get(keyOf(c, r)) ?? []) {
          if (stroke[j] === stroke[i] && isOwnNext(places, i, j)) continue;
          if (Math.abs(dx[i] * dx[j] + dy[i] * dy[j]) < SIDE_BY_SIDE) continue;
          const [ox, oy] = [x[j] - x[i], y[j] - y[i]];
          const ahead = Math.abs(ox * dx[i] + oy * dy[i]);
          if (ahead > STEP_MM) continue;
          const across = Math.abs(oy * dx[i] - ox * dy[i]);
          // Had the other bead gone on, a place of it would lie nearer: it ends before or behind this one.
          const apart = (ahead > STEP_MM / 2 ? Math.hypot(ahead, across) : across) / ((width[i] + width[j]) / 2);
          if (apart >= nearest) continue;
          nearest = apart;
          other = j;
        }
      }
    }
    if (other < 0 || nearest > APART_TO) continue;
    const [low, high] = stroke[i] < stroke[other] ? [stroke[i], stroke[other]] : [stroke[other], stroke[i]];
    const key = low * 4_194_304 + high;
    let pair = pairs.get(key);
    if (!pair) pairs.set(key, (pair = { least: Infinity, tightMm: 0, looseMm: 0, move: move[i] }));
    if (nearest < pair.least) {
      pair.least = nearest;
      pair.move = move[i];
    }
    if (nearest < 1 - MOST_OVERLAP - ROUNDING) pair.tightMm += STEP_MM;
    if (nearest > APART_FROM) pair.looseMm += STEP_MM;
  }
  return worstOf([...pairs.values()], layer, widest);
}

/** Whether two places of one stroke are next to one another along it, or at its beginning and its end: where a ring closes they meet. */
function isOwnNext({ along, width, begins, ends }: Places, i: number, j: number): boolean {
  const nearMm = OWN_WIDTHS * width[i];
  const [first, second] = along[i] < along[j] ? [i, j] : [j, i];
  const apart = along[second] - along[first];
  return apart < nearMm || along[first] - begins[first] + (ends[second] - along[second]) < nearMm;
}

/** What two strokes are to one another. */
interface Pair {
  /** Where they come nearest, in widths. */
  least: number;
  tightMm: number;
  looseMm: number;
  move: number;
}

function worstOf(pairs: readonly Pair[], layer: number, widthMm: number) {
  const worst = (shareOf: (pair: Pair) => number, counts: (pair: Pair) => boolean): Beside | null =>
    pairs.filter(counts).reduce<Beside | null>((most, pair) => {
      const share = shareOf(pair);
      return most && most.share >= share ? most : { layer, move: pair.move, share };
    }, null);
  return {
    tight: worst(
      ({ least }) => 1 - least,
      ({ tightMm }) => tightMm > OVERLAP_WIDTHS * widthMm,
    ),
    // Strokes that touch anywhere are meant to touch there, and to part elsewhere.
    loose: worst(
      ({ least }) => least - 1,
      ({ least, looseMm }) => least > APART_FROM && looseMm > APART_WIDTHS * widthMm,
    ),
  };
}
