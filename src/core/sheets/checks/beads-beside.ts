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
/** So many places are looked at in all, layers far from one another first. */
const MOST_PLACES = 300_000;
/** Of a longer layer no more than so many are. */
const MOST_IN_A_LAYER = 120_000;
/** Beads side by side run within so much of the same direction (cosine). */
const SIDE_BY_SIDE = 0.95;
/** Along one stroke, places nearer than this many widths are its own next ones. */
const OWN_WIDTHS = 5;

interface Places {
  count: number;
  /** All of the layer is among them. */
  isWhole: boolean;
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
    let tight: Beside | null = null;
    let loose: Beside | null = null;
    let left = MOST_PLACES;
    let looked = 0;
    for (const layer of spread(layers)) {
      if (left <= 0) break;
      const places = placesOf(context, layer);
      left -= places.count;
      if (places.isWhole) looked++;
      const found = besideIn(places, layer);
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
    if (looked < layers && findings.length === 0) {
      findings.push({
        check: "beads-beside",
        severity: "note",
        where: "whole print",
        message: `Whether beads side by side touch was looked at in ${looked.toLocaleString("en")} of ${layers.toLocaleString("en")} layers, and is so there; it is too much to look at all of them.`,
      });
    }
    return findings;
  },
};

/** Layers in an order that spreads over all of them from the beginning. */
function spread(layers: number): number[] {
  const order: number[] = [];
  const taken = new Uint8Array(layers);
  for (let every = Math.max(1, Math.ceil(layers / 12)); order.length < layers; every = Math.max(1, every >> 1)) {
    for (let layer = 0; layer < layers; layer += every) {
      if (taken[layer]) continue;
      taken[layer] = 1;
      order.push(layer);
    }
  }
  return order;
}

function placesOf({ laid, spool }: SheetContext, layer: number): Places {
  const { moves, layerStarts, tops, stroke } = laid;
  const filamentArea = filamentAreaMm2(spool.diameterMm);
  const heightMm = Math.max(0.05, layer === 0 ? tops[0] : Math.abs(tops[layer] - tops[layer - 1]));
  const most = Math.min(MOST_IN_A_LAYER, placesIn(laid, layer));
  const places: Places = {
    count: 0,
    isWhole: true,
    x: new Float32Array(most),
    y: new Float32Array(most),
    dx: new Float32Array(most),
    dy: new Float32Array(most),
    width: new Float32Array(most),
    along: new Float32Array(most),
    stroke: new Uint32Array(most),
    move: new Uint32Array(most),
    begins: new Float32Array(most),
    ends: new Float32Array(most),
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
      if (places.count === most) {
        places.isWhole = false;
        break;
      }
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

/** How many places a layer has at most. */
function placesIn({ moves, layerStarts }: SheetContext["laid"], layer: number): number {
  let lengthMm = 0;
  let count = 0;
  for (let i = Math.max(1, layerStarts[layer]); i < layerStarts[layer + 1]; i++) {
    lengthMm += Math.hypot(moves.x[i] - moves.x[i - 1], moves.y[i] - moves.y[i - 1]);
    count++;
  }
  return Math.ceil(lengthMm / STEP_MM) + count + 1;
}

/** Places by cells of a grid: those of cell `c` are `order[starts[c]]` to `order[starts[c + 1] - 1]`. */
function gridOf({ count, x, y }: Places, cellMm: number) {
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let i = 0; i < count; i++) {
    minX = Math.min(minX, x[i]);
    maxX = Math.max(maxX, x[i]);
    minY = Math.min(minY, y[i]);
    maxY = Math.max(maxY, y[i]);
  }
  const columnOf = (mm: number) => Math.floor((mm - minX) / cellMm);
  const rowOf = (mm: number) => Math.floor((mm - minY) / cellMm);
  const [columns, rows] = count > 0 ? [columnOf(maxX) + 1, rowOf(maxY) + 1] : [1, 1];
  const starts = new Uint32Array(columns * rows + 1);
  for (let i = 0; i < count; i++) starts[rowOf(y[i]) * columns + columnOf(x[i]) + 1]++;
  for (let c = 0; c < columns * rows; c++) starts[c + 1] += starts[c];
  const next = starts.slice(0, -1);
  const order = new Uint32Array(count);
  for (let i = 0; i < count; i++) order[next[rowOf(y[i]) * columns + columnOf(x[i])]++] = i;
  return { columns, rows, columnOf, rowOf, starts, order };
}

/** Neighbours of every place in a grid of cells as wide as the widest look. */
function besideIn(places: Places, layer: number): { tight: Beside | null; loose: Beside | null } {
  const { count, x, y, dx, dy, width, stroke, move } = places;
  let widest = 0;
  for (let i = 0; i < count; i++) widest = Math.max(widest, width[i]);
  const grid = gridOf(places, Math.max(0.2, widest * APART_TO));
  const pairs = new Map<number, Pair>();
  // Neighbours along a stroke mostly have the same other one beside them.
  let [lastKey, lastPair]: [number, Pair | null] = [-1, null];
  for (let i = 0; i < count; i++) {
    let nearest = Infinity;
    let other = -1;
    const [column, row] = [grid.columnOf(x[i]), grid.rowOf(y[i])];
    const [xi, yi, dxi, dyi, widthI, strokeI] = [x[i], y[i], dx[i], dy[i], width[i], stroke[i]];
    for (let r = Math.max(0, row - 1); r <= Math.min(grid.rows - 1, row + 1); r++) {
      const firstCell = r * grid.columns + Math.max(0, column - 1);
      const lastCell = r * grid.columns + Math.min(grid.columns - 1, column + 1);
      for (let at = grid.starts[firstCell]; at < grid.starts[lastCell + 1]; at++) {
        const j = grid.order[at];
        const [ox, oy] = [x[j] - xi, y[j] - yi];
        const ahead = Math.abs(ox * dxi + oy * dyi);
        if (ahead > STEP_MM) continue;
        const across = Math.abs(oy * dxi - ox * dyi);
        // Had the other bead gone on, a place of it would lie nearer: it ends before or behind this one.
        const apart = (ahead > STEP_MM / 2 ? Math.hypot(ahead, across) : across) / ((widthI + width[j]) / 2);
        if (apart >= nearest) continue;
        if (Math.abs(dxi * dx[j] + dyi * dy[j]) < SIDE_BY_SIDE) continue;
        if (stroke[j] === strokeI && isOwnNext(places, i, j)) continue;
        nearest = apart;
        other = j;
      }
    }
    if (other < 0 || nearest > APART_TO) continue;
    const [low, high] = strokeI < stroke[other] ? [strokeI, stroke[other]] : [stroke[other], strokeI];
    const key = low * 4_194_304 + high;
    let pair: Pair | null = key === lastKey ? lastPair : (pairs.get(key) ?? null);
    if (!pair) pairs.set(key, (pair = { least: Infinity, tightMm: 0, looseMm: 0, move: move[i] }));
    [lastKey, lastPair] = [key, pair];
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
