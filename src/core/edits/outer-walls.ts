/**
 * Outer walls finer than the inside. A file sliced coarsely gets its outer walls in thinner passes, before the inside of their layer, so
 * that the nozzle never comes below what stands; a file sliced finely gets the inside of several layers as one, behind their walls.
 */
import { z } from "zod";
import type { Ring } from "../geometry/polygons";
import type { Layer } from "../gcode/layers";
import { laysMaterial, MoveKind } from "../gcode/moves";
import type { ProgramTables } from "../gcode/tables";
import { toolsOfMoves } from "../heightplan/proof";
import { kindsOf } from "../laid/kinds";
import { findBridges } from "../laid/over-air";
import { outlineBetween, OutlineIndex, ringLengthMm } from "../laid/outline-between";
import { flatMm, fromX, fromY, Strand, strandsOf } from "../laid/strands";
import { USUAL_FILAMENT_MM2 } from "../material/bead";
import { refuse, Result } from "../result";
import type { Finding } from "../findings/finding";
import { plainNumber } from "../units";
import { EditContext, EditKind, EditOutcome, printerOfFile, SeenFile } from "./edit";
import { LineKindFinder } from "./line-kinds";
import { LineSplices } from "./line-splice";
import { mustBe } from "./proof";
import { Pen, Relay, Ways } from "./relay";
import { asItIs, MoveRewriter, Share } from "./rewrite-moves";
import { PlaceFinder } from "./scope";

export interface OuterWallsEdit {
  kind: "outer-walls";
  /** Each outer wall is laid in so many passes. */
  passes?: number;
  /** The inside of so many layers is laid as one. */
  insideEvery?: number;
}

const several = z.int({ error: "A whole number" }).min(2, "Two at least").max(8, "Eight at most").optional();

const schema = z
  .strictObject({ kind: z.literal("outer-walls"), passes: several, insideEvery: several })
  .refine(({ passes, insideEvery }) => (passes === undefined) !== (insideEvery === undefined), {
    message: "Say in how many passes the outer walls are laid, or of how many layers the inside is one",
    path: ["passes"],
  }) as unknown as z.ZodType<OuterWallsEdit>;

/** A nozzle lays beads of up to this share of its width in height, and no thinner than so much, mm. Common practice, no source. */
const THICKEST_SHARE = 0.8;
const THINNEST_MM = 0.04;
/** Layers whose insides differ by more are not laid as one. */
const ALIKE = 0.1;

export const outerWalls: EditKind<OuterWallsEdit> = {
  label: "outer walls",
  schema,
  keeps: [],
  proves(_edit, before, after) {
    const laid = ({ report }: SeenFile) => report.filament.reduce((sum, { mm }) => sum + mm, 0);
    const strike =
      after.report.strike && !before.report.strike
        ? [`The nozzle would strike at line ${after.report.strike.line}.`]
        : [];
    return [...mustBe("All filament laid", laid(after), laid(before), 0.01, "mm"), ...strike];
  },
  apply(edit, context) {
    const { file } = context;
    if (file.report.layers.length < 3) return refuse("The piece has too few layers for that.");
    return edit.passes !== undefined ? inPasses(edit.passes, context) : insideAsOne(edit.insideEvery!, context);
  },
};

/** A ring of an outer wall, as it is laid. */
interface Wall {
  ring: Ring;
  strand: Strand;
  feedMmS: number;
}

/** The closed outer walls of a layer that lie level in it. */
function wallsOf({ moves }: ProgramTables, layer: Layer, kind: Uint8Array): Wall[] {
  return strandsOf(moves, layer)
    .filter(({ isClosed, firstMove, lastMove }) => isClosed && isOuterAndLevel(firstMove, lastMove))
    .map((strand) => ({ strand, ring: ringOf(strand), feedMmS: moves.feedMmS[strand.firstMove + 1] }));

  function isOuterAndLevel(first: number, last: number): boolean {
    for (let i = first; i <= last; i++) {
      if (kind[i] !== MoveKind.outerWall || Math.abs(moves.z[i] - layer.zMm) > 1e-3) return false;
    }
    return true;
  }

  function ringOf({ firstMove, lastMove }: Strand): Ring {
    const ring = [{ x: fromX(moves, firstMove), y: fromY(moves, firstMove) }];
    for (let i = firstMove; i < lastMove; i++) ring.push({ x: moves.x[i], y: moves.y[i] });
    return ring;
  }
}

function inPasses(passes: number, context: EditContext): Result<EditOutcome> {
  const { file } = context;
  const tables = file.tables();
  const { moves, layers } = tables;
  const thinMm = Math.min(...layers.slice(1).map(({ heightMm }) => heightMm)) / passes;
  if (thinMm < THINNEST_MM) {
    return refuse(
      `Passes would be ${plainNumber(thinMm, 3)} mm thin; no nozzle lays less than ${THINNEST_MM} mm. Take fewer passes.`,
      "passes",
    );
  }
  const { kind } = kindsOf(tables);
  const tools = toolsOfMoves(tables);
  const walls = layers.map((layer) => wallsOf(tables, layer, kind));
  const outlines = walls.map((ofLayer) => new OutlineIndex(ofLayer.map(({ ring }) => ring)));
  const gone = new Uint8Array(moves.count);
  const changed = layers.map(
    ({ index, firstPrintMove, lastMove }) =>
      index > 0 && walls[index].length > 0 && hasOneTool(tools, moves.kind, firstPrintMove, lastMove),
  );
  walls.forEach((ofLayer, index) => {
    if (changed[index]) for (const { strand } of ofLayer) gone.fill(1, strand.firstMove, strand.lastMove + 1);
  });
  if (!changed.includes(true))
    return refuse("No outer wall of this file is a closed, level ring of one tool.", "passes");
  const block = (layer: { index: number }, pen: Pen) => {
    if (!changed[layer.index]) return;
    const { zMm, heightMm } = layers[layer.index];
    for (let pass = 1; pass <= passes; pass++) {
      const passMm = zMm - heightMm + (pass * heightMm) / passes;
      const aboveMiddleMm = heightMm * ((pass - 0.5) / passes - 0.5);
      const neighbour = layer.index + Math.sign(aboveMiddleMm);
      const apartMm = layers[neighbour] ? (heightMm + layers[neighbour].heightMm) / 2 : Infinity;
      for (const { ring, strand, feedMmS } of walls[layer.index]) {
        const laid =
          outlines[neighbour] && aboveMiddleMm !== 0
            ? outlineBetween(ring, outlines[neighbour], Math.abs(aboveMiddleMm) / apartMm)
            : ring;
        layRing(laid, passMm, (strand.filamentMm / passes) * (ringLengthMm(laid) / ringLengthMm(ring)), feedMmS, pen);
      }
    }
  };
  return relay(context, gone, block, null, leftAlone(gone, kind, tables));
}

function layRing(ring: Ring, zMm: number, filamentMm: number, feedMmS: number, pen: Pen): void {
  const perMm = filamentMm / ringLengthMm(ring);
  pen.goTo(ring[0].x, ring[0].y, zMm);
  ring.forEach((a, i) => {
    const b = ring[(i + 1) % ring.length];
    const lengthMm = Math.hypot(b.x - a.x, b.y - a.y);
    if (lengthMm > 1e-4) pen.layTo(b.x, b.y, perMm * lengthMm, feedMmS);
  });
}

function insideAsOne(every: number, context: EditContext): Result<EditOutcome> {
  const { file, printer } = context;
  const tables = file.tables();
  const { moves, layers } = tables;
  const thickMm = Math.max(...layers.slice(1).map(({ heightMm }) => heightMm)) * every;
  const mostMm = THICKEST_SHARE * printer.nozzleMm;
  if (thickMm > mostMm + 1e-6) {
    return refuse(
      `The inside would be ${plainNumber(thickMm, 2)} mm thick; a ${plainNumber(printer.nozzleMm)} mm nozzle lays up to ${plainNumber(mostMm, 2)} mm. Take fewer layers.`,
      "insideEvery",
    );
  }
  const { kind } = kindsOf(tables);
  const tools = toolsOfMoves(tables);
  const overAir = new Set(findBridges(tables).flatMap(({ layer }) => [layer, layer + 1]));
  const insideMm = layers.map(({ firstPrintMove, lastMove }) => {
    let sum = 0;
    for (let i = firstPrintMove; i <= lastMove; i++) {
      if (laysMaterial(moves.kind[i]) && kind[i] !== MoveKind.outerWall) sum += moves.filamentMm[i];
    }
    return sum;
  });
  const gone = new Uint8Array(moves.count);
  const more = new Float32Array(moves.count).fill(1);
  let groups = 0;
  for (let first = 1; first + every <= layers.length; first += every) {
    const last = first + every - 1;
    const group = layers.slice(first, last + 1);
    const inside = insideMm.slice(first, last + 1);
    const alike = Math.max(...inside) - Math.min(...inside) <= ALIKE * Math.max(...inside);
    const sound =
      inside[0] > 0 &&
      alike &&
      group.every(
        ({ index, firstPrintMove, lastMove }) =>
          !overAir.has(index) && hasOneTool(tools, moves.kind, firstPrintMove, lastMove),
      );
    if (!sound) continue;
    groups++;
    const share = inside.reduce((sum, mm) => sum + mm, 0) / inside[every - 1];
    for (const { index, firstPrintMove, lastMove } of group) {
      for (let i = firstPrintMove; i <= lastMove; i++) {
        if (!laysMaterial(moves.kind[i]) || kind[i] === MoveKind.outerWall) continue;
        if (index < last) gone[i] = 1;
        else more[i] = share;
      }
    }
  }
  if (groups === 0) return refuse("No layers lie on each other whose insides are alike.", "insideEvery");
  return relay(context, gone, null, more, []);
}

/** Filament and feed of a move that lays so much more than it did, within what the hot end melts. */
function shareOf({ moves }: ProgramTables, move: number, flow: number, mostMm3S: number): Share {
  if (flow === 1) return asItIs;
  const filamentPerMm = (moves.filamentMm[move] * flow) / Math.max(1e-6, flatMm(moves, move));
  const mm3S = filamentPerMm * USUAL_FILAMENT_MM2 * moves.feedMmS[move];
  // In steps of 2 %, so that a feed is not said anew at every move.
  const feed = Math.min(1, Math.floor((mostMm3S / mm3S) * 50) / 50 || 1);
  return { feed: Math.max(0.1, feed), flow };
}

function hasOneTool(tools: Uint8Array, kinds: Uint8Array, first: number, last: number): boolean {
  for (let i = first; i <= last; i++) if (laysMaterial(kinds[i]) && tools[i] !== tools[first]) return false;
  return true;
}

function relay(
  context: EditContext,
  gone: Uint8Array,
  block: ((layer: { index: number }, pen: Pen) => void) | null,
  more: Float32Array | null,
  findings: Finding[],
): Result<EditOutcome> {
  const { file, printer } = context;
  const tables = file.tables();
  const splices = new LineSplices(file.report.lineEnd, outerWalls.label);
  const goes = new LineKindFinder(tables.moves, gone);
  const moveAt = new LineKindFinder(
    tables.moves,
    Uint32Array.from({ length: tables.moves.count }, (_, i) => i),
  );
  const share = (line: number) => {
    const move = moveAt.kindAt(line);
    return shareOf(tables, move, more![move], printer.highestFlowMm3S);
  };
  const rewriter = more && new MoveRewriter(share, splices, new PlaceFinder(file));
  const walker = new Relay(
    file.report.layers,
    waysOf(tables, printerOfFile(context).firmwareRetraction),
    splices,
    (line) => goes.kindAt(line) === 1,
    block,
    rewriter,
  );
  file.follow(walker);
  if (walker.countsFromStanding >= 0) {
    return refuse(
      `Layer ${walker.countsFromStanding + 1} counts its places from where the nozzle stands (G91): its walls cannot be laid anew.`,
    );
  }
  return splices.outcome(findings, { mustAll: true });
}

/** How the file goes from strand to strand, by what it mostly does. */
export function waysOf({ moves }: ProgramTables, byFirmware: boolean): Ways {
  const travels: number[] = [];
  const lengths: number[] = [];
  const feeds: number[] = [];
  for (let i = 1; i < moves.count && travels.length + lengths.length < 20_000; i++) {
    if (moves.kind[i] === MoveKind.travel && Math.hypot(moves.x[i] - moves.x[i - 1], moves.y[i] - moves.y[i - 1]) > 1) {
      travels.push(moves.feedMmS[i]);
    } else if (moves.kind[i] === MoveKind.retract) {
      lengths.push(-moves.filamentMm[i]);
      if (Number.isFinite(moves.feedMmS[i])) feeds.push(moves.feedMmS[i]);
    }
  }
  return {
    travelMmS: median(travels) ?? 100,
    retractMm: median(lengths) ?? 0,
    retractMmS: median(feeds) ?? 30,
    byFirmware,
  };
}

function median(values: number[]): number | null {
  return values.length === 0 ? null : values.sort((a, b) => a - b)[values.length >> 1];
}

/** Outer walls that are no rings, or lie in layers of several tools, stay as they are, and that is said. */
function leftAlone(gone: Uint8Array, kind: Uint8Array, { moves }: ProgramTables): Finding[] {
  let [count, line] = [0, -1];
  for (let i = 0; i < moves.count; i++) {
    if (kind[i] !== MoveKind.outerWall || moves.layer[i] < 1 || gone[i] === 1 || moves.line[i] === line) continue;
    if (count++ === 0) line = moves.line[i];
  }
  if (count === 0) return [];
  return [
    {
      check: "left-as-they-are",
      severity: "warn",
      where: `line ${line + 1}`,
      message: `Outer walls that are no closed, level rings of one tool stay as they are, from line ${line + 1} on.`,
    },
  ];
}
