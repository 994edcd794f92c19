/** Kinds of line of a program that was written elsewhere: as its comments say them, and as its geometry shows them where it has none. */
import type { Layer } from "../gcode/layers";
import { laysMaterial, MoveKind, MoveTable } from "../gcode/moves";
import { ProgramTables } from "../gcode/tables";
import { LayerRaster, eachLayer, eachSample } from "./raster";
import { AirStretch, stretchesOverAir } from "./over-air";
import { Strand, strandsOf } from "./strands";

/** Whether comments tell: two kinds at least, and in so many of the layers. */
const FEWEST_KINDS = 2;
const TOLD_SHARE = 0.5;
/** A wall touches nothing on its outer side; a few places may be a seam or a corner. */
const TOUCHED_AT_MOST = 0.06;
/** Lines that touch their neighbours on both sides over so much of their length are solid. */
const SOLID_SHARE = 0.6;
/** A ring of the first layer that carries less than this is laid round the piece, not of it. */
const CARRIES_SHARE = 0.05;

export interface LineKinds {
  /** By move: see `MoveKind`. Moves that lay nothing keep theirs. */
  kind: Uint8Array;
  /** Where the kinds come from. */
  from: "comments" | "geometry";
}

/** Layers of a program, from the first (included) to the last (excluded), counted from 0. */
export interface LayerSpan {
  from: number;
  to: number;
}

/** What was found of a program whose comments do not tell: it is looked at once, layer by layer as layers are asked for. */
interface FoundKinds {
  kind: Uint8Array;
  /** By layer: whether it was looked at. */
  isKnown: Uint8Array;
}

const kept = new WeakMap<MoveTable, LineKinds | FoundKinds>();

/**
 * The kinds of the moves, of some layers alone where `span` says which: a layer is told by itself and the one below, the first also by the
 * second. `onLayer` hears how many layers were looked at. What it gives is kept with the moves, and not to be changed.
 */
export function kindsOf(
  tables: ProgramTables,
  onLayer: (done: number) => void = () => undefined,
  span: LayerSpan = { from: 0, to: tables.layers.length },
): LineKinds {
  const { moves, layers } = tables;
  let known = kept.get(moves);
  if (!known) {
    known = saidKindsOf(tables) ?? { kind: moves.kind.slice(), isKnown: new Uint8Array(layers.length) };
    kept.set(moves, known);
  }
  if ("from" in known) return known;
  const { kind, isKnown } = known;
  let from = Math.max(0, span.from);
  let to = Math.min(span.to, layers.length);
  while (from < to && isKnown[from]) from++;
  while (to > from && isKnown[to - 1]) to--;
  if (from < to) {
    // The first layer's skirts are known by what the second carries.
    if (from === 0) to = Math.min(layers.length, Math.max(to, 2));
    seeKinds(kind, moves, layers.slice(Math.max(0, from - 1), to), from, onLayer);
    isKnown.fill(1, from, to);
  }
  return { kind, from: "geometry" };
}

/** The kinds as comments say them; null where they do not. */
function saidKindsOf({ moves, layers, saidKinds: said }: ProgramTables): LineKinds | null {
  if (new Set(said.kind).size < FEWEST_KINDS) return null;
  const kind = moves.kind.slice();
  const told = new Set<number>();
  let now = 0;
  let next = 0;
  for (let i = 0; i < moves.count; i++) {
    let once = 0;
    while (next < said.count && said.move[next] <= i) {
      if (said.once[next]) once = said.kind[next];
      else now = said.kind[next];
      next++;
    }
    if (!laysMaterial(kind[i])) continue;
    const own = once || now;
    if (own === 0) continue;
    kind[i] = own;
    told.add(moves.layer[i]);
  }
  return told.size >= layers.length * TOLD_SHARE ? { kind, from: "comments" } : null;
}

/**
 * The kinds as geometry shows them, from a layer on; those before it are what it lies on. A ring that touches nothing on one side is an outer wall, any other ring an inner one; what touches its
 * neighbours on both sides is solid, the rest sparse; what hangs over air is a bridge, and a ring of the first layer that carries
 * nothing a skirt.
 */
function seeKinds(
  kind: Uint8Array,
  moves: MoveTable,
  layers: readonly Layer[],
  from: number,
  onLayer: (done: number) => void,
): void {
  let rings: Strand[] = [];
  for (const { layer, strands, raster, below } of eachLayer(moves, layers, (one) => strandsOf(moves, one))) {
    if (layer.index < from) continue;
    if (layer.index === 1) markSkirts(kind, moves, rings, raster);
    for (const strand of strands) {
      kind.fill(kindOfStrand(moves, strand, raster), strand.firstMove, strand.lastMove + 1);
      for (const { firstMove, lastMove } of airOf(moves, strand, below))
        kind.fill(MoveKind.bridge, firstMove, lastMove + 1);
    }
    if (layer.index === 0) rings = strands.filter(({ isClosed }) => isClosed);
    onLayer(layer.index + 1);
  }
}

function airOf(moves: MoveTable, strand: Strand, below: LayerRaster | null): AirStretch[] {
  return below ? stretchesOverAir(moves, strand, below) : [];
}

function kindOfStrand(moves: MoveTable, strand: Strand, raster: LayerRaster): number {
  const { left, right, both } = touchedShares(moves, strand, raster);
  if (strand.isClosed) return Math.min(left, right) <= TOUCHED_AT_MOST ? MoveKind.outerWall : MoveKind.innerWall;
  return both >= SOLID_SHARE ? MoveKind.solid : MoveKind.sparse;
}

/** Shares (0–1) of a strand's length with something laid beside it, be it of its own: left, right, and on both sides at once. */
function touchedShares(moves: MoveTable, { firstMove, lastMove, widthMm }: Strand, raster: LayerRaster) {
  let [samples, left, right, both] = [0, 0, 0, 0];
  const touches = (x: number, y: number, move: number) => {
    const other = raster.at(x, y);
    return other !== 0 && Math.abs(other - 1 - move) > 1 ? 1 : 0;
  };
  for (let i = firstMove; i <= lastMove; i++) {
    const [x0, y0] = i === 0 ? [0, 0] : [moves.x[i - 1], moves.y[i - 1]];
    const lengthMm = Math.hypot(moves.x[i] - x0, moves.y[i] - y0);
    if (lengthMm < 1e-6) continue;
    const [acrossX, acrossY] = [(-(moves.y[i] - y0) / lengthMm) * widthMm, ((moves.x[i] - x0) / lengthMm) * widthMm];
    const steps = Math.max(1, Math.ceil(lengthMm / (2 * widthMm)));
    const [dx, dy] = [(moves.x[i] - x0) / steps, (moves.y[i] - y0) / steps];
    for (let step = 0; step <= steps; step++) {
      const [x, y] = [x0 + dx * step, y0 + dy * step];
      const onLeft = touches(x + acrossX, y + acrossY, i);
      const onRight = touches(x - acrossX, y - acrossY, i);
      samples++;
      left += onLeft;
      right += onRight;
      both += onLeft & onRight;
    }
  }
  const share = (count: number) => count / Math.max(1, samples);
  return { left: share(left), right: share(right), both: share(both) };
}

/** Rings of the first layer on which the second lays nothing. */
function markSkirts(kind: Uint8Array, moves: MoveTable, rings: readonly Strand[], second: LayerRaster): void {
  for (const { firstMove, lastMove, widthMm } of rings) {
    let [samples, carried] = [0, 0];
    for (let i = firstMove; i <= lastMove; i++) {
      eachSample(moves, i, widthMm, (x, y) => {
        samples++;
        if (second.at(x, y) !== 0) carried++;
      });
    }
    if (carried < samples * CARRIES_SHARE) kind.fill(MoveKind.skirt, firstMove, lastMove + 1);
  }
}

/** What a kind of line is called on screen and in edits. */
export const lineKindNames = {
  "outer-wall": MoveKind.outerWall,
  "inner-wall": MoveKind.innerWall,
  solid: MoveKind.solid,
  sparse: MoveKind.sparse,
  bridge: MoveKind.bridge,
  support: MoveKind.support,
  skirt: MoveKind.skirt,
  prime: MoveKind.prime,
} as const;
export type LineKindName = keyof typeof lineKindNames;
