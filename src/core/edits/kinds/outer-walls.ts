/**
 * Outer walls finer than the inside. A file sliced coarsely gets its outer walls in thinner passes, before the inside of their layer, so
 * that the nozzle never comes below what stands; a file sliced finely gets the inside of several layers as one, behind their walls.
 */
import { z } from "zod";
import type { Ring } from "../../geometry/polygons";
import type { Layer } from "../../gcode/layers";
import { laysMaterial, MoveKind } from "../../gcode/moves";
import { kindOfWords } from "../../gcode/said-kinds";
import type { ProgramTables } from "../../gcode/tables";
import { toolsOfMoves } from "../../heightplan/proof";
import { kindsOf } from "../../laid/kinds";
import { findBridges } from "../../laid/over-air";
import { outlineBetween, OutlineIndex, ringLengthMm } from "../../laid/outline-between";
import { flatMm, fromX, fromY, Strand, strandsOf } from "../../laid/strands";
import { USUAL_FILAMENT_MM2 } from "../../material/bead";
import { Reading, readingOf } from "../../machine/reading";
import { refuse, Result, succeed } from "../../result";
import type { NewBead } from "../../trace/compare";
import { bitOf, bitsOf } from "../../trace/fields";
import type { Finding } from "../../findings/finding";
import type { LayerReport } from "../../report/report";
import { plainNumber } from "../../units";
import { setBy, WAY, WAY_ITSELF } from "../asked";
import { EditContext, EditKind, EditOutcome, printerOfFile, SeenFile } from "../edit";
import { LineKindFinder } from "../line-kinds";
import { LineSplices } from "../line-splice";
import { mustBe } from "../must-be";
import { decodeLine } from "../line-text";
import { MovesMade, movesMadeAt, sayMovesMade } from "../moves-made";
import { BlockOf, BlockPlace, Drawing, Pen, Relay, Ways } from "../relay";
import { asItIs, MoveRewriter, Share } from "../rewrite-moves";
import { PlaceFinder } from "../scope";

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
  writesFilament: true,
  schema,
  asks(edit, context) {
    const tables = context.file.tables();
    const taken =
      edit.passes !== undefined ? wallsTaken(edit.passes, context) : insidesTaken(edit.insideEvery!, context);
    if (!taken.ok) return {};
    const { gone } = taken.value;
    const more = "more" in taken.value ? taken.value.more : null;
    const again = "walls" in taken.value ? wallsAgain(edit.passes!, taken.value, context) : null;
    const opened = new Set<number>();
    return {
      bead(bead) {
        // Passes below the top of their layer can make layers of their own, where no comments open them.
        bead.open |= bitOf.layer | WAY_ITSELF | bitsOf("waits", "shows", "says");
        if (gone[bead.move] === 1) return false;
        if (more && more[bead.move] !== 1) {
          const share = shareOf(tables, bead.move, more[bead.move], context.printer.highestFlowMm3S);
          bead.feedMmS *= share.feed;
          bead.filamentMm *= share.flow;
        }
        return true;
      },
      ...(again
        ? {
            sets: again.sets,
            before({ layer }) {
              if (layer < 0 || opened.has(layer)) return [];
              opened.add(layer);
              const recorder = new Recorder(readingOf(context.printer));
              again.lay(layer, recorder);
              return recorder.beads;
            },
          }
        : {}),
      end: (end) => void (end.open |= WAY),
    };
  },
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

/** Takes down what is drawn, instead of writing it. */
class Recorder implements Drawing {
  readonly beads: NewBead[] = [];
  private at = { x: NaN, y: NaN, z: NaN };
  private set: ReadonlyMap<number, number> = new Map();

  constructor(private readonly reading: Reading) {}

  say(lines: readonly string[]): void {
    this.set = new Map([...this.set, ...setBy(lines, this.reading).map(({ slot, value }) => [slot, value] as const)]);
  }

  goTo(x: number, y: number, z: number): void {
    this.at = { x, y, z };
  }

  layTo(x: number, y: number, filamentMm: number, feedMmS: number): void {
    const to = { ...this.at, x, y };
    this.beads.push({ from: this.at, to, filamentMm, feedMmS, set: this.set });
    this.at = to;
  }
}

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

/** The outer walls that are laid anew: by layer, and by move. */
function wallsTaken(passes: number, { file }: EditContext) {
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
  return succeed({ gone, changed, walls, outlines, kind, tools });
}

function inPasses(passes: number, context: EditContext): Result<EditOutcome> {
  const taken = wallsTaken(passes, context);
  if (!taken.ok) return taken;
  const { gone, kind } = taken.value;
  const again = wallsAgain(passes, taken.value, context);
  const comments = new KindComments(context.file);
  const block = ({ index, line }: BlockPlace, pen: Pen) => {
    if (again.has(index)) pen.say(comments.ofOuterWalls);
    again.lay(index, pen);
    return again.has(index) ? comments.inForce(line) : [];
  };
  return relay(context, gone, block, null, leftAlone(gone, kind, context.file.tables()));
}

type WallsTaken = ReturnType<typeof wallsTaken> extends Result<infer T> ? T : never;

/** Lays the walls of a layer in passes, each wall as the file makes its moves. */
function wallsAgain(passes: number, { changed, walls, outlines, tools }: WallsTaken, { file, printer }: EditContext) {
  const tables = file.tables();
  const { layers } = tables;
  const beads = new Set(walls.flatMap((ofLayer) => ofLayer.map(({ strand }) => strand.firstMove)));
  for (const { firstPrintMove } of layers) beads.add(firstPrintMove);
  const madeAt = movesMadeAt(tables, beads);
  const lay = (index: number, pen: Drawing) => {
    if (!changed[index]) return;
    const { zMm, heightMm, firstPrintMove } = layers[index];
    const tool = tools[firstPrintMove];
    // Factors are in the figures; the rest is as the walls had it.
    const own = madeAt.get(firstPrintMove)!;
    let now = own;
    const make = (wanted: MovesMade) => {
      const next = { ...wanted, flowFactor: own.flowFactor, speedFactor: own.speedFactor };
      pen.say(sayMovesMade(next, now, printer, tool));
      now = next;
    };
    for (let pass = 1; pass <= passes; pass++) {
      const passMm = zMm - heightMm + (pass * heightMm) / passes;
      const aboveMiddleMm = heightMm * ((pass - 0.5) / passes - 0.5);
      const neighbour = index + Math.sign(aboveMiddleMm);
      const apartMm = layers[neighbour] ? (heightMm + layers[neighbour].heightMm) / 2 : Infinity;
      for (const { ring, strand, feedMmS } of walls[index]) {
        const laid =
          outlines[neighbour] && aboveMiddleMm !== 0
            ? outlineBetween(ring, outlines[neighbour], Math.abs(aboveMiddleMm) / apartMm)
            : ring;
        make(madeAt.get(strand.firstMove)!);
        layRing(laid, passMm, (strand.filamentMm / passes) * (ringLengthMm(laid) / ringLengthMm(ring)), feedMmS, pen);
      }
    }
    make(own);
  };
  const sets = walls.flatMap((ofLayer, index) =>
    ofLayer.flatMap(({ strand }) =>
      setBy(
        sayMovesMade(madeAt.get(strand.firstMove)!, madeAt.get(layers[index].firstPrintMove)!, printer, 0),
        readingOf(printer),
      ).map(({ slot }) => slot),
    ),
  );
  return { lay, sets: [...new Set(sets)], has: (index: number) => changed[index] };
}

function layRing(ring: Ring, zMm: number, filamentMm: number, feedMmS: number, pen: Drawing): void {
  const perMm = filamentMm / ringLengthMm(ring);
  pen.goTo(ring[0].x, ring[0].y, zMm);
  ring.forEach((a, i) => {
    const b = ring[(i + 1) % ring.length];
    const lengthMm = Math.hypot(b.x - a.x, b.y - a.y);
    if (lengthMm > 1e-4) pen.layTo(b.x, b.y, perMm * lengthMm, feedMmS);
  });
}

function insideAsOne(every: number, context: EditContext): Result<EditOutcome> {
  const taken = insidesTaken(every, context);
  if (!taken.ok) return taken;
  const { gone, more, kept, all } = taken.value;
  return relay(context, gone, null, more, inOneDirection(every, kept, all, context.file.tables()));
}

/** The insides that are laid as one: which moves go, and how much more those lay that stay. */
function insidesTaken(every: number, { file, printer }: EditContext) {
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
  const [kept, all]: [number[], number[]] = [[], []];
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
    kept.push(last);
    all.push(...group.map(({ index }) => index));
    const share = inside.reduce((sum, mm) => sum + mm, 0) / inside[every - 1];
    for (const { index, firstPrintMove, lastMove } of group) {
      for (let i = firstPrintMove; i <= lastMove; i++) {
        if (!laysMaterial(moves.kind[i]) || kind[i] === MoveKind.outerWall) continue;
        if (index < last) gone[i] = 1;
        else more[i] = share;
      }
    }
  }
  if (kept.length === 0) return refuse("No consecutive layers have the same inside.", "insideEvery");
  return succeed({ gone, more, kept, all });
}

/** Lines of a fill shorter than this have no direction that counts, mm; directions closer than this are one, °. */
const SHORTEST_FILL_MM = 2;
const SAME_DIRECTION_DEG = 20;

/** Fills that crossed from layer to layer and do not any more are said: such a part is weaker. */
function inOneDirection(
  every: number,
  kept: readonly number[],
  all: readonly number[],
  tables: ProgramTables,
): Finding[] {
  const { kind } = kindsOf(tables);
  const isAlong = (layers: readonly number[]) => {
    const directions = layers.flatMap((layer) => directionOf(tables, layer, kind) ?? []);
    const apart = (a: number, b: number) => Math.min(Math.abs(a - b), 180 - Math.abs(a - b));
    return directions.length > 1 && directions.every((one) => apart(one, directions[0]) < SAME_DIRECTION_DEG);
  };
  if (!isAlong(kept) || isAlong(all)) return [];
  return [
    {
      check: "fill-in-one-direction",
      severity: "warn",
      where: `layer ${kept[0] + 1}`,
      message: `The fills of this file cross from layer to layer; of every ${every} layers the last one stays, and those all run in one direction: the part is weaker. With ${every + 1} layers they cross.`,
    },
  ];
}

/** The direction most of a layer's fill runs in, 0 to 180 °; null where it has none. */
function directionOf({ moves, layers }: ProgramTables, layer: number, kind: Uint8Array): number | null {
  const lengths = new Float64Array(18);
  const { firstPrintMove, lastMove } = layers[layer];
  for (let i = Math.max(1, firstPrintMove); i <= lastMove; i++) {
    if (kind[i] !== MoveKind.solid && kind[i] !== MoveKind.sparse) continue;
    const [dx, dy] = [moves.x[i] - moves.x[i - 1], moves.y[i] - moves.y[i - 1]];
    const lengthMm = Math.hypot(dx, dy);
    if (lengthMm < SHORTEST_FILL_MM) continue;
    const degrees = ((Math.atan2(dy, dx) * 180) / Math.PI + 180 + 5) % 180;
    lengths[Math.floor(degrees / 10)] += lengthMm;
  }
  const longest = lengths.indexOf(Math.max(...lengths));
  return lengths[longest] > 0 ? longest * 10 : null;
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
  block: BlockOf | null,
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
    blockPlaces(tables, file.report.layers),
    waysOf(tables, printerOfFile(context).firmwareRetraction),
    splices,
    (line) => goes.kindAt(line) === 1,
    block,
    rewriter,
  );
  file.follow(walker);
  if (walker.countsFromStanding >= 0) {
    return refuse(
      `Layer ${walker.countsFromStanding + 1} uses relative positioning (G91), so its walls can't be rewritten.`,
    );
  }
  return splices.outcome(findings, { mustAll: true });
}

/**
 * Where a layer's block stands: behind everything that is set between the layer's opening and its first bead, so that it is laid as
 * that bead is.
 */
function blockPlaces({ moves, events, layers }: ProgramTables, reports: readonly LayerReport[]) {
  let event = 0;
  return reports.map((layer, i) => {
    const firstLine = moves.line[layers[i].firstPrintMove];
    let line = layer.insertLine - 1;
    for (; event < events.count && events.line[event] < firstLine; event++)
      line = Math.max(line, events.line[event] + 1);
    return { layer, line: Math.min(line, firstLine) };
  });
}

/** The comments by which a file says kinds of line. */
class KindComments {
  /** The one that opens outer walls, if there is one. */
  readonly ofOuterWalls: string[] = [];
  private readonly all: { line: number; text: string }[] = [];

  constructor(file: SeenFile) {
    if (file.tables().saidKinds.count === 0) return;
    file.walk(
      (line) => {
        if (line.commentFrom < 0 || line.wordCount > 0 || line.named) return;
        const kind = kindOfWords(line.comment());
        if (kind === null) return;
        const text = decodeLine(line);
        this.all.push({ line: line.number, text });
        if (kind === MoveKind.outerWall && this.ofOuterWalls.length === 0) this.ofOuterWalls.push(text);
      },
      { moves: false },
    );
  }

  private next = 0;

  /** The one that holds in front of a line (from 0, rising from call to call). */
  inForce(line: number): string[] {
    while (this.next < this.all.length && this.all[this.next].line < line) this.next++;
    return this.next > 0 ? [this.all[this.next - 1].text] : [];
  }
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
