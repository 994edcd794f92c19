/**
 * Layers come from heights at which material is laid, never from every Z move: z-hops, spiral walls, variable heights and
 * a first layer of another height all read right.
 */
import { roundTo } from "../units";
import type { MarkerFinder, MarkerSeries } from "./markers";
import type { MoveTable } from "./moves";
import { chooseOpenings, OpenedLayer, openedLayers, SAME_LAYER_MM } from "./openings";

/** One layer of a program, in program order. */
export interface Layer {
  /** From 0. */
  index: number;
  /** Height of its top, mm: the height the nozzle lays it at. */
  zMm: number;
  /** Its own thickness, mm. */
  heightMm: number;
  /** First move that belongs to it, the travel to it included. */
  firstMove: number;
  /** First and last move that lay material. */
  firstPrintMove: number;
  lastMove: number;
  /** Where a line that takes effect from this layer on must stand: behind the comment that opens the layer, before its first travel. */
  insertByte: number;
  insertLine: number;
  /** Number in the comment that opens it, if there is one. */
  marker?: number;
}

/** Where the way to the first bead of the print begins: what stands in front of it is the start. */
export interface PrintStart {
  byte: number;
  /** From 0. */
  line: number;
}

interface Run {
  zMm: number;
  firstPrintMove: number;
  lastPrintMove: number;
  /** Moves that lay something in it. */
  prints: number;
  insertByte: number;
  insertLine: number;
  /** It was opened by a move that climbs, so that its height is a guess until a level move says it. */
  climbs: boolean;
}

/** A ramp of a seam rises by at most about a layer; what climbs higher is a spiral wall. mm, common practice, no source. */
const HIGHEST_RAMP_MM = 0.5;
const HIGHEST_RAMP_STEPS = 2.2;
const LEVEL_BEHIND_RAMP = 3;
/** A turn of a spiral wall is closed where it comes back this near to where it began, mm, having gone round so much, mm². */
const CLOSED_MM = 0.5;
const ROUND_MM2 = 4;
/** A line that fills the nozzle is so short at most, in moves. */
const MOST_PRIMING_MOVES = 3;

/** Follows the printing moves while a program is read and notes where one layer ends and the next begins. */
export class LayerTracker {
  private readonly runs: Run[] = [];
  private current: Run | null = null;
  private stepMm = 0;
  private levelMoves = 0;
  private levelZMm = NaN;
  private travelByte = -1;
  private travelLine = 0;
  /** Travels in front of the first material, each with how figures counted there; null once anything was laid. */
  private approaches: { startByte: number; line: number; counts: string }[] | null = [];
  /** Where the turn that is being laid began, while it is not known how far one rises; null between spiral walls. */
  private turn: { x: number; y: number; z: number; firstRun: number; twiceAreaMm2: number } | null = null;

  /** Whether anything was laid yet. */
  get started(): boolean {
    return this.current !== null;
  }

  /** A move that lays nothing but goes somewhere else: the first one after printing may open the next layer. */
  travel(startByte: number, line: number): void {
    if (this.travelByte < 0) {
      this.travelByte = startByte;
      this.travelLine = line;
    }
  }

  /** A command in front of the first material that homes, heats, or takes up a tool: what went before is no part of the first layer. */
  forgetTravel(): void {
    this.travelByte = -1;
    this.approaches = [];
  }

  /**
   * A command in front of the first material that says how figures count. The first layer opens at the first travel from which on they
   * count as they do where it is laid: a lift by G91 and back is part of the way there.
   *
   * @param countsBefore how they counted before it
   */
  countAnew(countsBefore: string): void {
    if (this.travelByte >= 0)
      this.approaches?.push({ startByte: this.travelByte, line: this.travelLine, counts: countsBefore });
    this.travelByte = -1;
  }

  /** The first material is about to be laid, with figures that count like this. */
  approach(counts: string): void {
    const first = this.approaches?.find((one) => one.counts === counts);
    this.approaches = null;
    if (first) [this.travelByte, this.travelLine] = [first.startByte, first.line];
  }

  /** A move that lays material from height `fromZ` to height `toZ`. */
  print(move: number, fromZ: number, toZ: number, startByte: number, line: number): void {
    const run = this.current;
    const rise = toZ - fromZ;
    const level = rise < 1e-4 && rise > -1e-4;
    if (run !== null && !this.opens(run, fromZ, toZ, level)) {
      run.lastPrintMove = move;
      run.prints++;
      this.travelByte = -1;
      return;
    }
    if (level) {
      this.turn = null;
      const ramp = this.takeRamp(toZ);
      const below = this.current;
      if (below && toZ > below.zMm) this.stepMm = toZ - below.zMm;
      else if (!below && toZ > 0) this.stepMm = toZ;
      this.open(toZ, move, startByte, line, ramp);
    } else {
      const base = run ? run.zMm : fromZ;
      const step = this.stepMm > 0 ? this.stepMm : Math.max(0.2, toZ - base);
      this.open(roundTo(base + step, 4), move, startByte, line, null);
      this.current!.climbs = true;
    }
  }

  /**
   * A climbing move that was just taken by `print`: how far a turn rises is known where it comes back to where it began. Until then the
   * layer below gave the measure, and that may be of another height.
   */
  climb(fromX: number, fromY: number, fromZ: number, x: number, y: number, z: number): void {
    const { runs } = this;
    const first = runs.length - 1;
    if (!runs[first].climbs) return;
    if (!this.turn) {
      const isFirst = first === 0 || !runs[first - 1].climbs;
      if (!isFirst || runs[first].prints > 1) return;
      this.turn = { x: fromX, y: fromY, z: fromZ, firstRun: first, twiceAreaMm2: 0 };
    }
    const { turn } = this;
    turn.twiceAreaMm2 += (fromX - turn.x) * (y - turn.y) - (x - turn.x) * (fromY - turn.y);
    const isClosed = Math.hypot(x - turn.x, y - turn.y) <= CLOSED_MM && Math.abs(turn.twiceAreaMm2) > 2 * ROUND_MM2;
    if (!isClosed || turn.firstRun > first || z - turn.z < SAME_LAYER_MM) return;
    const whole = runs.splice(turn.firstRun);
    this.stepMm = z - turn.z;
    this.current = {
      ...whole[0],
      zMm: roundTo(z, 4),
      lastPrintMove: whole[whole.length - 1].lastPrintMove,
      prints: whole.reduce((sum, { prints }) => sum + prints, 0),
    };
    runs.push(this.current);
    // The next turn begins here; all rise alike.
    this.turn = null;
  }

  private opens(run: Run, fromZ: number, toZ: number, level: boolean): boolean {
    if (!level) return Math.max(fromZ, toZ) > run.zMm + (run.climbs ? 1e-4 : SAME_LAYER_MM);
    const above = toZ - run.zMm;
    if (!run.climbs || above > SAME_LAYER_MM) return above > SAME_LAYER_MM || above < -SAME_LAYER_MM;
    // Within a spiral wall two places can be level by rounding: some in a row are needed to tell that a ramp has ended.
    this.levelMoves = toZ === this.levelZMm ? this.levelMoves + 1 : 1;
    this.levelZMm = toZ;
    return this.levelMoves >= LEVEL_BEHIND_RAMP && this.settles(toZ);
  }

  /** Whether a level move at this height says how high the ramp before it was going. */
  private settles(toZ: number): boolean {
    return this.rampStart(toZ) < this.runs.length;
  }

  /** Index of the first of the climbing runs that end the list, if they are a ramp to the height `toZ`; else their number. */
  private rampStart(toZ: number): number {
    const { runs } = this;
    let first = runs.length;
    while (first > 0 && runs[first - 1].climbs) first--;
    const base = first > 0 ? runs[first - 1].zMm : 0;
    const rise = toZ - base;
    const highest = Math.max(HIGHEST_RAMP_MM, HIGHEST_RAMP_STEPS * this.stepMm);
    return rise > 0 && rise <= highest ? first : runs.length;
  }

  /** Takes the climbing runs of a seam's ramp off the list: they belong to the layer whose level moves follow. */
  private takeRamp(toZ: number): Run | null {
    const first = this.rampStart(toZ);
    const ramp = this.runs.splice(first);
    this.current = this.runs[this.runs.length - 1] ?? null;
    if (ramp.length === 0) return null;
    return { ...ramp[0], prints: ramp.reduce((sum, { prints }) => sum + prints, 0) };
  }

  private open(zMm: number, move: number, startByte: number, line: number, ramp: Run | null): void {
    this.current = {
      zMm: roundTo(zMm, 4),
      firstPrintMove: ramp?.firstPrintMove ?? move,
      lastPrintMove: move,
      prints: (ramp?.prints ?? 0) + 1,
      insertByte: ramp?.insertByte ?? (this.travelByte >= 0 ? this.travelByte : startByte),
      insertLine: ramp?.insertLine ?? (this.travelByte >= 0 ? this.travelLine : line),
      climbs: false,
    };
    this.runs.push(this.current);
    this.travelByte = -1;
  }

  /** How many stretches of one height were begun so far. */
  get stretchCount(): number {
    return this.runs.length;
  }

  /**
   * The layers of the finished program, and the comments that open them. Fills `moves.layer`.
   * Material laid before the first opening comment, or at the very start above what follows it, is priming, not a layer.
   */
  finish(
    moves: MoveTable,
    finder: MarkerFinder,
  ): { layers: Layer[]; markers: MarkerSeries | null; printFrom: PrintStart } {
    const byHeight = withoutLowVisits(withoutPriming(this.runs));
    const markers = chooseOpenings(finder.series(), finder.plain(), this.runs, moves, byHeight);
    const opened = markers ? openedLayers(markers, moves).map(asOpening) : byHeight.map(byRun);
    const layers: Layer[] = [];
    const heights: number[] = [];
    let previousLast = -1;
    opened.forEach(({ zMm, ...one }, index) => {
      while (heights.length > 0 && heights[heights.length - 1] >= zMm - SAME_LAYER_MM) heights.pop();
      const below = heights.length > 0 ? heights[heights.length - 1] : 0;
      heights.push(zMm);
      layers.push({
        index,
        zMm,
        heightMm: roundTo(zMm - below, 4),
        ...one,
        firstMove: index === 0 ? one.firstMove : previousLast + 1,
      });
      previousLast = one.lastMove;
    });
    for (const layer of layers) moves.layer.fill(layer.index, layer.firstMove, layer.lastMove + 1);
    return { layers, markers, printFrom: this.printStart(layers) };
  }

  /** A comment may open the first layer behind the lift to its height: that lift is a part of the print all the same. */
  private printStart([first]: readonly Layer[]): PrintStart {
    if (!first) return { byte: 0, line: 0 };
    const { insertByte: byte, insertLine: line, firstPrintMove } = first;
    const run = this.runs.find((one) => one.firstPrintMove === firstPrintMove);
    return run && run.insertLine < line ? { byte: run.insertByte, line: run.insertLine } : { byte, line };
  }
}

type Opened = Omit<Layer, "index" | "heightMm">;

/** A layer as its height tells it. */
const byRun = ({ zMm, firstPrintMove, lastPrintMove, insertByte, insertLine }: Run): Opened => ({
  zMm,
  firstMove: firstPrintMove,
  firstPrintMove,
  lastMove: lastPrintMove,
  insertByte,
  insertLine,
});

/** A layer as the comment that opens it tells it. */
const asOpening = ({ zMm, place, firstPrintMove, lastPrintMove }: OpenedLayer): Opened => ({
  zMm,
  firstMove: Math.min(place.move, firstPrintMove),
  firstPrintMove,
  lastMove: lastPrintMove,
  insertByte: place.endByte,
  insertLine: place.line + 1,
  ...(Number.isNaN(place.value) ? {} : { marker: place.value }),
});

/** Two runs as one, at the height of the one that lays more, or of the higher; the later one's moves come behind the earlier one's. */
function joined(first: Run, next: Run): Run {
  const main = next.prints > first.prints || (next.prints === first.prints && next.zMm > first.zMm) ? next : first;
  return {
    ...first,
    zMm: main.zMm,
    lastPrintMove: next.lastPrintMove,
    prints: first.prints + next.prints,
  };
}

/**
 * A tower for cleaning nozzles that is kept lower than the piece is visited from above and left again upwards: it belongs to the
 * layer it was visited from. Going down for good is the next piece of a print made one by one.
 */
function withoutLowVisits(all: readonly Run[]): Run[] {
  const runs: Run[] = [];
  for (let i = 0; i < all.length; i++) {
    const above = runs[runs.length - 1];
    const next = all[i + 1];
    const run = all[i];
    const isVisit =
      above && next && run.zMm < above.zMm - SAME_LAYER_MM && next.zMm >= above.zMm - SAME_LAYER_MM && !run.climbs;
    if (isVisit) runs[runs.length - 1] = { ...joined(above, run), zMm: above.zMm };
    else if (
      above &&
      Math.abs(above.zMm - run.zMm) <= SAME_LAYER_MM &&
      i > 0 &&
      all[i - 1].zMm < run.zMm - SAME_LAYER_MM
    )
      runs[runs.length - 1] = joined(above, run);
    else runs.push(run);
  }
  return runs;
}

/** Without a line at the start that fills the nozzle: above the first layer, or so close below it that no layer lies between. */
function withoutPriming(runs: readonly Run[]): readonly Run[] {
  if (runs.length < 2) return runs;
  const [first, second, third] = runs;
  if (first.zMm > second.zMm + SAME_LAYER_MM) return runs.slice(1);
  const usual = third ? third.zMm - second.zMm : second.zMm;
  const tooThin = second.zMm - first.zMm < usual / 2;
  return tooThin && first.prints <= MOST_PRIMING_MOVES ? runs.slice(1) : runs;
}
