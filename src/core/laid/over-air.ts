/**
 * Strands over air, found by what is below them and by nothing else: a strand runs over air where the layer below holds nothing within
 * its own width. What rests on the lines of a sparse fill is no bridge: there it is held every few millimetres.
 */
import { Layer } from "../gcode/layers";
import { MoveTable } from "../gcode/moves";
import { ProgramTables } from "../gcode/tables";
import { eachLayer, eachSample, LayerRaster } from "./raster";
import { fromX, fromY, Strand, strandsOf } from "./strands";

/** Shorter stretches over air need no care, mm. Common practice, no source. */
export const SHORTEST_SPAN_MM = 3;
/** A strand beside a wall of the layer below leans on it: nothing may lie nearer than this, in beads. */
const FREE_BEADS = 0.7;
/** A strand on its own is a line of a fill in a corner, unless it is longer, mm. Common practice, no source. */
const LONE_SPAN_MM = 8;
/** So much of a stretch must be free across the whole width of the bead: a leaning wall rests on its neighbour. */
const FREE_SHARE = 0.5;
/** Over the seam of two lines that touch a strand rests on both: that far to its sides, in beads. */
const SEAM_BEADS = 0.4;
/** Strands of one bridge lie no further apart, in beads. */
const NEIGHBOUR_BEADS = 2.5;
/** What holds a strand on its way straight on, and is narrower than this, is a line and no post; in beads. */
const LINE_BEADS = 1.6;

/** Beside a line of a fill there is at least so much of a gap behind it as in front. Common practice, no source. */
const FILL_GAPS_ALIKE = 0.5;

/** Gaps between the walls and lines of a post are shorter than this, mm. */
const WIDEST_GAP_MM = 1.5;

/** One stretch of a strand over air. */
export interface AirStretch {
  /** Moves that lie over air for the greater part. */
  firstMove: number;
  lastMove: number;
  lengthMm: number;
  /** From where it leaves what holds it to where it is held again, as the crow flies, mm. */
  spanMm: number;
  /** How many of its ends rest on something. */
  heldEnds: 0 | 1 | 2;
  strand: Strand;
  room: { minX: number; minY: number; maxX: number; maxY: number };
}

/** Strands of one layer that lie side by side over air. */
export interface Bridge {
  /** From 0. */
  layer: number;
  /** Height it is laid at, mm. */
  zMm: number;
  /** Line (from 0) of the first move. */
  line: number;
  stretches: AirStretch[];
  /** All of it, mm. */
  lengthMm: number;
  /** The longest, mm. */
  spanMm: number;
}

/** What hangs over air in a program, from the bed up. */
export interface OverAir {
  bridges: Bridge[];
  /** Moves that hang over air for less than half of their length. */
  parts: PartOverAir[];
}

const kept = new WeakMap<MoveTable, OverAir>();

/** What hangs over air; looked for once, and kept with the moves. @param onLayer hears how many layers were looked at */
export function overAirIn(
  { moves, layers }: ProgramTables,
  onLayer: (done: number) => void = () => undefined,
): Readonly<OverAir> {
  const known = kept.get(moves);
  if (known) return known;
  const found: OverAir = { bridges: [], parts: [] };
  const onPart = (part: PartOverAir) => void found.parts.push(part);
  for (const { layer, strands, below } of eachLayer(moves, layers, (one) => strandsOf(moves, one))) {
    if (below) found.bridges.push(...bridgesOf(moves, layer, strands, below, onPart));
    onLayer(layer.index + 1);
  }
  kept.set(moves, found);
  return found;
}

/**
 * The bridges of a program from the bed up.
 *
 * @example
 * // A strand on the bed lies over nothing.
 * findBridges(readProgram("M83\nG1 X9 Y9 Z0.2 F900\nG1 X60 E2\n")); // []
 */
export const findBridges = (tables: ProgramTables): readonly Bridge[] => overAirIn(tables).bridges;

function bridgesOf(
  moves: MoveTable,
  { index, zMm }: Layer,
  strands: readonly Strand[],
  below: LayerRaster,
  onPart?: (part: PartOverAir) => void,
): Bridge[] {
  const stretches = strands.flatMap((strand) => stretchesOverAir(moves, strand, below, onPart));
  return grouped(stretches)
    .filter((group) => group.length > 1 || group[0].spanMm >= LONE_SPAN_MM)
    .map((group) => ({
      layer: index,
      zMm,
      line: moves.line[group[0].firstMove],
      stretches: group,
      lengthMm: group.reduce((sum, { lengthMm }) => sum + lengthMm, 0),
      spanMm: group.reduce((longest, { spanMm }) => Math.max(longest, spanMm), 0),
    }));
}

/** A run of samples with nothing, or with something, right below. */
interface Run {
  isAir: boolean;
  fromMm: number;
  toMm: number;
  fromX: number;
  fromY: number;
  toX: number;
  toY: number;
}

/** A move that hangs over air for less than half of its length: no part of a move is laid otherwise than the rest. */
export interface PartOverAir {
  move: number;
  spanMm: number;
}

/**
 * Stretches of one strand over air, those held by the lines of a fill left out.
 *
 * @param onPart hears of what hangs over air but is less than half of its move
 */
export function stretchesOverAir(
  moves: MoveTable,
  strand: Strand,
  below: LayerRaster,
  onPart: (part: PartOverAir) => void = () => undefined,
): AirStretch[] {
  if (!mayHang(moves, strand, below)) return [];
  const { starts, runs } = runsOf(moves, strand, below);
  const stretches: AirStretch[] = [];
  runs.forEach((run, i) => {
    const spanMm = Math.hypot(run.toX - run.fromX, run.toY - run.fromY);
    // What comes back to where it left is a rim that leans out.
    if (!run.isAir || spanMm < SHORTEST_SPAN_MM) return;
    if (isOnLine(runs, i, -1, strand.widthMm) || isOnLine(runs, i, 1, strand.widthMm)) return;
    const inside = (move: number) => {
      const [from, to] = [starts[move - strand.firstMove], starts[move - strand.firstMove + 1]];
      return Math.min(to, run.toMm) - Math.max(from, run.fromMm) > (to - from) / 2;
    };
    let first = strand.firstMove;
    while (first <= strand.lastMove && !inside(first)) first++;
    if (first > strand.lastMove) {
      let move = strand.firstMove;
      while (move < strand.lastMove && starts[move - strand.firstMove + 1] <= run.fromMm) move++;
      if (isFree(moves, move, move, strand, below)) onPart({ move, spanMm });
      return;
    }
    let last = first;
    while (last < strand.lastMove && inside(last + 1)) last++;
    if (!isFree(moves, first, last, strand, below)) return;
    stretches.push({
      firstMove: first,
      lastMove: last,
      lengthMm: run.toMm - run.fromMm,
      spanMm,
      heldEnds: heldEndsOf(moves, strand, runs, i, below),
      strand,
      room: roomOfMoves(moves, first, last),
    });
  });
  return stretches;
}

/** A stretch of `SHORTEST_SPAN_MM` holds so many places in a row that are a quarter of it apart. */
const IN_A_ROW = 4;

/** Whether a strand can have a stretch over air at all: looks at some of the places `runsOf` looks at, and at no others. */
function mayHang(moves: MoveTable, strand: Strand, below: LayerRaster): boolean {
  const apartMm = SHORTEST_SPAN_MM / IN_A_ROW;
  const stride = Math.max(1, Math.floor(apartMm / below.cellMm));
  let inARow = 0;
  let sinceMm = Infinity;
  let x0 = fromX(moves, strand.firstMove);
  let y0 = fromY(moves, strand.firstMove);
  for (let move = strand.firstMove; move <= strand.lastMove; move++) {
    const x1 = moves.x[move];
    const y1 = moves.y[move];
    const lengthMm = Math.sqrt((x1 - x0) * (x1 - x0) + (y1 - y0) * (y1 - y0));
    const isLast = move === strand.lastMove;
    const nextMm = isLast ? Infinity : Math.hypot(moves.x[move + 1] - x1, moves.y[move + 1] - y1);
    // Of many short moves one in so many millimetres is looked at.
    if (sinceMm + lengthMm > apartMm || nextMm > apartMm) {
      const steps = Math.max(1, Math.ceil(lengthMm / below.cellMm));
      for (let i = 0; ; i = Math.min(steps, i + stride)) {
        if (below.at(x0 + ((x1 - x0) * i) / steps, y0 + ((y1 - y0) * i) / steps) !== 0) inARow = 0;
        else if (++inARow >= IN_A_ROW) return true;
        if (i === steps) break;
      }
      sinceMm = 0;
    } else sinceMm += lengthMm;
    x0 = x1;
    y0 = y1;
  }
  return false;
}

function runsOf(moves: MoveTable, strand: Strand, below: LayerRaster): { starts: number[]; runs: Run[] } {
  const runs: Run[] = [];
  const starts = [0];
  let run: Run | null = null;
  let passedMm = 0;
  let x0 = fromX(moves, strand.firstMove);
  let y0 = fromY(moves, strand.firstMove);
  for (let move = strand.firstMove; move <= strand.lastMove; move++) {
    const x1 = moves.x[move];
    const y1 = moves.y[move];
    const lengthMm = Math.sqrt((x1 - x0) * (x1 - x0) + (y1 - y0) * (y1 - y0));
    const steps = Math.max(1, Math.ceil(lengthMm / below.cellMm));
    const dx = (x1 - x0) / steps;
    const dy = (y1 - y0) / steps;
    const acrossMm = lengthMm > 0 ? (SEAM_BEADS * strand.widthMm) / lengthMm : 0;
    const acrossX = (y0 - y1) * acrossMm;
    const acrossY = (x1 - x0) * acrossMm;
    for (let i = 0; i <= steps; i++) {
      const x = x0 + dx * i;
      const y = y0 + dy * i;
      const isAir = below.at(x, y) === 0 && !isSeam(below, x, y, acrossX, acrossY);
      const mm = passedMm + (lengthMm * i) / steps;
      if (run === null || run.isAir !== isAir) {
        const fromMm: number = run === null ? mm : run.toMm;
        run = { isAir, fromMm, toMm: mm, fromX: x, fromY: y, toX: x, toY: y };
        runs.push(run);
      }
      run.toMm = mm;
      run.toX = x;
      run.toY = y;
    }
    passedMm += lengthMm;
    starts.push(passedMm);
    x0 = x1;
    y0 = y1;
  }
  return { starts, runs };
}

/** Whether a place that nothing covers lies between two lines that a strand along them rests on. */
const isSeam = (below: LayerRaster, x: number, y: number, acrossX: number, acrossY: number): boolean =>
  below.at(x + acrossX, y + acrossY) !== 0 && below.at(x - acrossX, y - acrossY) !== 0;

/** Whether nothing lies within the width of the bead, and a little more, along most of some moves. */
function isFree(moves: MoveTable, first: number, last: number, { widthMm }: Strand, below: LayerRaster): boolean {
  let [free, samples] = [0, 0];
  for (let move = first; move <= last; move++) {
    eachSample(moves, move, widthMm, (x, y) => {
      if (below.at(x, y) !== 0) return;
      samples++;
      if (below.isEmptyAround(x, y, widthMm * FREE_BEADS)) free++;
    });
  }
  return free > samples * FREE_SHARE;
}

/** How many ends of a run rest on something: on what it goes over next, or on what lies beside the end of the strand. */
function heldEndsOf(moves: MoveTable, strand: Strand, runs: readonly Run[], at: number, below: LayerRaster): 0 | 1 | 2 {
  const rests = (x: number, y: number) => !below.isEmptyAround(x, y, strand.widthMm);
  const { firstMove, lastMove } = strand;
  const start = at > 0 || strand.isClosed || rests(fromX(moves, firstMove), fromY(moves, firstMove));
  const end = at < runs.length - 1 || strand.isClosed || rests(moves.x[lastMove], moves.y[lastMove]);
  return (Number(start) + Number(end)) as 0 | 1 | 2;
}

/** Whether what holds a run on one side is a line that is crossed straight on, with air behind it again. */
function isOnLine(runs: readonly Run[], at: number, by: 1 | -1, widthMm: number): boolean {
  let next = at + by;
  let heldMm = 0;
  // A gap within a post is no air.
  while (runs[next] && (!runs[next].isAir || lengthOf(runs[next]) < WIDEST_GAP_MM)) {
    heldMm += lengthOf(runs[next]);
    next += by;
  }
  if (!runs[next] || heldMm > LINE_BEADS * widthMm) return false;
  // The gaps of a fill are much alike; the inside of a hollow post is narrower than what hangs between two of them.
  if (lengthOf(runs[next]) < FILL_GAPS_ALIKE * lengthOf(runs[at])) return false;
  const angle = Math.abs(headingOf(runs[at]) - headingOf(runs[next]));
  return Math.min(angle, 2 * Math.PI - angle) < Math.PI / 6;
}

const lengthOf = (run: Run) => run.toMm - run.fromMm;
const headingOf = (run: Run) => Math.atan2(run.toY - run.fromY, run.toX - run.fromX);

function roomOfMoves(moves: MoveTable, first: number, last: number) {
  const room = {
    minX: fromX(moves, first),
    minY: fromY(moves, first),
    maxX: fromX(moves, first),
    maxY: fromY(moves, first),
  };
  for (let i = first; i <= last; i++) {
    room.minX = Math.min(room.minX, moves.x[i]);
    room.maxX = Math.max(room.maxX, moves.x[i]);
    room.minY = Math.min(room.minY, moves.y[i]);
    room.maxY = Math.max(room.maxY, moves.y[i]);
  }
  return room;
}

/** Stretches that lie side by side belong together; in the order of the program. */
function grouped(stretches: readonly AirStretch[]): AirStretch[][] {
  const groups: { stretches: AirStretch[]; room: AirStretch["room"] }[] = [];
  for (const stretch of stretches) {
    const reach = stretch.strand.widthMm * NEIGHBOUR_BEADS;
    const { minX, minY, maxX, maxY } = stretch.room;
    const near = groups.filter(
      ({ room }) =>
        minX <= room.maxX + reach &&
        maxX >= room.minX - reach &&
        minY <= room.maxY + reach &&
        maxY >= room.minY - reach,
    );
    const [first, ...others] = near;
    if (!first) {
      groups.push({ stretches: [stretch], room: { ...stretch.room } });
      continue;
    }
    for (const part of [{ stretches: [stretch], room: stretch.room }, ...others]) {
      first.stretches.push(...part.stretches);
      first.room = {
        minX: Math.min(first.room.minX, part.room.minX),
        minY: Math.min(first.room.minY, part.room.minY),
        maxX: Math.max(first.room.maxX, part.room.maxX),
        maxY: Math.max(first.room.maxY, part.room.maxY),
      };
    }
    for (const other of others) groups.splice(groups.indexOf(other), 1);
  }
  for (const group of groups) group.stretches.sort((a, b) => a.firstMove - b.firstMove);
  return groups.map((group) => group.stretches).sort((a, b) => a[0].firstMove - b[0].firstMove);
}

/** A bridge in figures; `line` counts from 1, `layer` from 0. */
export interface SeenBridge {
  line: number;
  layer: number;
  heightMm: number;
  strands: number;
  lengthMm: number;
  spanMm: number;
  /** Strands of it that are not held at both ends. */
  loose: number;
  /** How fast it is laid. */
  feedMmS: number;
}

/** The bridges of a program in figures. */
export function seenBridges(tables: ProgramTables): SeenBridge[] {
  return findBridges(tables).map(({ layer, zMm, line, stretches, lengthMm, spanMm }) => ({
    ...{ line: line + 1, layer, heightMm: zMm, strands: stretches.length, lengthMm, spanMm },
    loose: stretches.filter(({ heldEnds }) => heldEnds < 2).length,
    feedMmS: tables.moves.feedMmS[stretches[0].firstMove],
  }));
}
