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
  insertByte: number;
  insertLine: number;
}

/** Follows the printing moves while a program is read and notes where one layer ends and the next begins. */
export class LayerTracker {
  private readonly runs: Run[] = [];
  private current: Run | null = null;
  private climbing = false;
  private stepMm = 0;
  private travelByte = -1;
  private travelLine = 0;

  /** A move that lays nothing but goes somewhere else: the first one after printing may open the next layer. */
  travel(startByte: number, line: number): void {
    if (this.travelByte < 0) {
      this.travelByte = startByte;
      this.travelLine = line;
    }
  }

  /** A move that lays material from height `fromZ` to height `toZ`. */
  print(move: number, fromZ: number, toZ: number, startByte: number, line: number): void {
    const run = this.current;
    const level = Math.abs(toZ - fromZ) < 1e-4;
    if (run) {
      const opens = this.climbing && !level ? toZ > run.zMm + 1e-4 : this.opensLayer(run, fromZ, toZ, level);
      if (!opens) {
        run.lastPrintMove = move;
        this.travelByte = -1;
        return;
      }
    }
    if (level) {
      if (run && toZ > run.zMm) this.stepMm = toZ - run.zMm;
      else if (!run && toZ > 0) this.stepMm = toZ;
      this.climbing = false;
      this.open(toZ, move, startByte, line);
    } else {
      const base = run ? run.zMm : fromZ;
      const step = this.stepMm > 0 ? this.stepMm : Math.max(0.2, toZ - base);
      this.climbing = true;
      this.open(roundTo(base + step, 4), move, startByte, line);
    }
  }

  private opensLayer(run: Run, fromZ: number, toZ: number, level: boolean): boolean {
    if (level) return Math.abs(toZ - run.zMm) > SAME_LAYER_MM;
    return Math.max(fromZ, toZ) > run.zMm + SAME_LAYER_MM;
  }

  private open(zMm: number, move: number, startByte: number, line: number): void {
    this.current = {
      zMm: roundTo(zMm, 4),
      firstPrintMove: move,
      lastPrintMove: move,
      insertByte: this.travelByte >= 0 ? this.travelByte : startByte,
      insertLine: this.travelByte >= 0 ? this.travelLine : line,
    };
    this.runs.push(this.current);
    this.travelByte = -1;
  }

  /**
   * The layers of the finished program, and the comments that open them. Fills `moves.layer`.
   * Material laid before the first opening comment, or at the very start above what follows it, is priming, not a layer.
   */
  finish(moves: MoveTable, candidates: MarkerSeries[]): { layers: Layer[]; markers: MarkerSeries | null } {
    let { runs } = this;
    if (runs.length > 1 && runs[0].zMm > runs[1].zMm + SAME_LAYER_MM) runs = runs.slice(1);
    const markers = chooseMarkers(candidates, runs);
    if (markers) {
      const first = markers.places[0].move;
      const opened = runs.filter((run) => run.lastPrintMove >= first);
      if (opened.length > 0) runs = opened;
    }
    const opening = markers ? placesByRun(runs, markers.places) : null;
    const layers: Layer[] = [];
    const heights: number[] = [];
    let previousLast = -1;
    runs.forEach((run, index) => {
      const place = opening?.[index];
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

/** The series that opens the most layers, one comment a layer; null if none opens nearly all of them. */
function chooseMarkers(candidates: MarkerSeries[], runs: Run[]): MarkerSeries | null {
  let best: MarkerSeries | null = null;
  let bestShare = 0.9;
  for (const series of candidates.slice(0, 50)) {
    const { places } = series;
    if (runs.length === 0 || places.length < 2 || places.length > runs.length * 1.2 + 2) continue;
    const opened = runs.filter((run) => run.lastPrintMove >= places[0].move);
    const share = placesByRun(opened, places).filter(Boolean).length / Math.max(1, opened.length);
    // At least a good part of the program must lie behind the first marker.
    if (opened.length < runs.length * 0.8 && opened.length < runs.length - 2) continue;
    if (share > bestShare) {
      best = series;
      bestShare = share;
    }
  }
  return best;
}

/** For each run, the last place between the end of the run before it and its own end; undefined if there is none. */
function placesByRun(runs: Run[], places: MarkerPlace[]): (MarkerPlace | undefined)[] {
  let at = 0;
  let previousLast = -1;
  return runs.map((run, index) => {
    let found: MarkerPlace | undefined;
    while (at < places.length && places[at].move <= (index === 0 ? run.lastPrintMove : run.firstPrintMove)) {
      if (places[at].move > previousLast) found ??= places[at];
      at++;
    }
    previousLast = run.lastPrintMove;
    return found;
  });
}
