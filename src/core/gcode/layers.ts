/**
 * Layers come from heights at which material is laid, never from every Z move: z-hops, spiral walls, variable heights and
 * a first layer of another height all read right.
 */
import { roundTo } from "../units";
import { MarkerPlace, MarkerSeries } from "./markers";
import { MoveTable } from "./moves";

/** Two moves lie in one layer if their heights differ by less, mm. */
const SAME_LAYER_MM = 0.0015;

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

  /** What went before does not open the next layer after all: it homes, heats, or says how figures count. */
  forgetTravel(): void {
    this.travelByte = -1;
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

  /**
   * The layers of the finished program, and the comments that open them. Fills `moves.layer`.
   * Material laid before the first opening comment, or at the very start above what follows it, is priming, not a layer.
   */
  finish(moves: MoveTable, candidates: MarkerSeries[]): { layers: Layer[]; markers: MarkerSeries | null } {
    let runs = withoutLowVisits(withoutPriming(this.runs));
    const markers = chooseMarkers(candidates, this.runs);
    let opening: (MarkerPlace | undefined)[] = [];
    if (markers) ({ runs, opening } = runsByPlace(this.runs, markers.places));
    const layers: Layer[] = [];
    const heights: number[] = [];
    let previousLast = -1;
    runs.forEach((run, index) => {
      const place = opening[index];
      while (heights.length > 0 && heights[heights.length - 1] >= run.zMm - SAME_LAYER_MM) heights.pop();
      const below = heights.length > 0 ? heights[heights.length - 1] : 0;
      heights.push(run.zMm);
      const firstMove = index === 0 ? (place ? place.move : run.firstPrintMove) : previousLast + 1;
      layers.push({
        index,
        zMm: run.zMm,
        heightMm: roundTo(run.zMm - below, 4),
        firstMove: Math.min(firstMove, run.firstPrintMove),
        firstPrintMove: Math.max(run.firstPrintMove, place ? Math.min(place.move, run.lastPrintMove) : 0),
        lastMove: run.lastPrintMove,
        insertByte: place ? place.endByte : run.insertByte,
        insertLine: place ? place.line + 1 : run.insertLine,
        ...(place ? { marker: place.value } : {}),
      });
      previousLast = run.lastPrintMove;
    });
    for (const layer of layers) moves.layer.fill(layer.index, layer.firstMove, layer.lastMove + 1);
    return { layers, markers };
  }
}

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

/** The series that opens the most layers, one comment a layer; null if none opens nearly all of them. */
function chooseMarkers(candidates: MarkerSeries[], runs: Run[]): MarkerSeries | null {
  let best: MarkerSeries | null = null;
  let mostOpened = 0;
  for (const series of candidates.slice(0, 50)) {
    const { places } = series;
    if (runs.length === 0 || places.length < 2 || places.length > runs.length * 1.2 + 2) continue;
    const opened = runs.filter((run) => run.lastPrintMove >= places[0].move);
    // At least a good part of the program must lie behind the first marker.
    if (opened.length < runs.length * 0.8 && opened.length < runs.length - 2) continue;
    // A low tower is visited within a layer and has no comment of its own.
    const wanted = withoutLowVisits(opened).length;
    const byPlace = runsByPlace(runs, places);
    const share = byPlace.runs.length / Math.max(1, wanted);
    // A table at the top of a file counts up, too; but it opens hardly a layer.
    const opens = byPlace.opening.filter((place) => place !== undefined).length;
    if (share > 0.9 && share < 1.1 && opens > mostOpened) {
      best = series;
      mostOpened = opens;
    }
  }
  return best;
}

/**
 * The runs behind the first place, each place's run in one: what is laid between two opening comments is one layer, at the height
 * of the highest. Runs in front of the first place are priming. A run across a place begins anew there.
 */
function runsByPlace(
  all: readonly Run[],
  places: readonly MarkerPlace[],
): { runs: Run[]; opening: (MarkerPlace | undefined)[] } {
  const runs: Run[] = [];
  const opening: (MarkerPlace | undefined)[] = [];
  let at = -1;
  for (const run of all) {
    let place: MarkerPlace | undefined;
    while (at + 1 < places.length && places[at + 1].move <= run.firstPrintMove) place = places[++at];
    if (at < 0) {
      // The first comment may stand behind the first travel or line of its own layer.
      if (places[0].move > run.lastPrintMove) continue;
      place = places[++at];
    }
    const last = runs[runs.length - 1];
    if (place || !last) {
      runs.push(run);
      opening.push(place);
    } else if (run.zMm <= last.zMm + SAME_LAYER_MM || at + 1 < places.length) runs[runs.length - 1] = joined(last, run);
    else {
      runs.push(run);
      opening.push(undefined);
    }
  }
  return { runs, opening };
}
