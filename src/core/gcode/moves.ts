/**
 * The move table: what is built and what is read both become this, and viewer, duration, heat, checks and proof read
 * nothing else. Columns instead of objects: a program of three million moves is nine typed arrays.
 */
import { EventKind } from "../machine/event-kind";
import { byteColumn, float64Column, uint32Column } from "./columns";

export { EventKind } from "../machine/event-kind";

/** What a move is for. A program that is read back tells only the first five apart. */
export const MoveKind = {
  travel: 0,
  retract: 1,
  restore: 2,
  print: 3,
  home: 4,
  outerWall: 5,
  innerWall: 6,
  solid: 7,
  sparse: 8,
  bridge: 9,
  skirt: 10,
  prime: 11,
  support: 12,
} as const;
export type MoveKind = (typeof MoveKind)[keyof typeof MoveKind];

/** Whether a move of this kind lays material. */
export function laysMaterial(kind: number): boolean {
  return kind === MoveKind.print || kind >= MoveKind.outerWall;
}

/**
 * `count` moves in the order of the program. A move starts where the one before it ended; the first starts at 0, 0, 0.
 */
export interface MoveTable {
  count: number;
  /** Where the move ends, in machine coordinates, mm. */
  x: Float32Array;
  y: Float32Array;
  z: Float32Array;
  /** Filament fed while it lasts, mm of filament; negative when drawn back. */
  filamentMm: Float32Array;
  /** Commanded feed, mm/s, feed factor included. */
  feedMmS: Float32Array;
  /** See `MoveKind`. */
  kind: Uint8Array;
  /** Layer index from 0; -1 before the first and behind the last layer. */
  layer: Int32Array;
  /** Line of the program the move comes from, from 0. */
  line: Uint32Array;
}

/** `count` events in program order. */
export interface EventTable {
  count: number;
  kind: Uint8Array;
  /** In the unit of the kind: °C, 0–255, %, mm/s², mm/s, mm, s. */
  value: Float64Array;
  /** Tool or fan index the event is meant for. */
  tool: Uint8Array;
  /** The event stands before this move. */
  move: Uint32Array;
  /** Line from 0. */
  line: Uint32Array;
  /** Byte range of its line, line end included. */
  startByte: Float64Array;
  endByte: Float64Array;
}

const FEWEST_ROWS = 1 << 15;
/** Tables up to this many rows are cut to size at the end; copying a larger one would hold it twice. */
const MOST_COPIED_ROWS = 1 << 20;

/**
 * Grows a move table row by row; used by the reader and by the builder. This is the innermost loop of reading, so every
 * column is a plain array of its own. Room that was asked for but never filled costs no memory: the pages are not touched.
 */
export class MoveTableBuilder {
  private rows = 0;
  private room: number;
  private x: Float32Array;
  private y: Float32Array;
  private z: Float32Array;
  private filamentMm: Float32Array;
  private feedMmS: Float32Array;
  private kind: Uint8Array;
  private line: Uint32Array;

  /** @param expectedRows how many moves are likely to come; more may, at the price of a copy */
  constructor(expectedRows = 0) {
    this.room = Math.max(FEWEST_ROWS, Math.ceil(expectedRows));
    this.x = new Float32Array(this.room);
    this.y = new Float32Array(this.room);
    this.z = new Float32Array(this.room);
    this.filamentMm = new Float32Array(this.room);
    this.feedMmS = new Float32Array(this.room);
    this.kind = new Uint8Array(this.room);
    this.line = new Uint32Array(this.room);
  }

  get count(): number {
    return this.rows;
  }

  /** Adds one move; all figures as in `MoveTable`. */
  add(x: number, y: number, z: number, filamentMm: number, feedMmS: number, kind: number, line: number): void {
    if (this.rows === this.room) this.grow();
    const at = this.rows++;
    this.x[at] = x;
    this.y[at] = y;
    this.z[at] = z;
    this.filamentMm[at] = filamentMm;
    this.feedMmS[at] = feedMmS;
    this.kind[at] = kind;
    this.line[at] = line;
  }

  /** The finished table; `layer` is -1 everywhere until the layers are known. Nothing may be added afterwards. */
  take(): MoveTable {
    const { rows } = this;
    const cut = <A extends Float32Array | Uint8Array | Uint32Array>(column: A): A =>
      (rows <= MOST_COPIED_ROWS ? column.slice(0, rows) : column.subarray(0, rows)) as A;
    return {
      count: rows,
      x: cut(this.x),
      y: cut(this.y),
      z: cut(this.z),
      filamentMm: cut(this.filamentMm),
      feedMmS: cut(this.feedMmS),
      kind: cut(this.kind),
      layer: new Int32Array(rows).fill(-1),
      line: cut(this.line),
    };
  }

  private grow(): void {
    this.room *= 2;
    const larger = <A extends Float32Array | Uint8Array | Uint32Array>(column: A, copy: A): A => {
      copy.set(column);
      return copy;
    };
    this.x = larger(this.x, new Float32Array(this.room));
    this.y = larger(this.y, new Float32Array(this.room));
    this.z = larger(this.z, new Float32Array(this.room));
    this.filamentMm = larger(this.filamentMm, new Float32Array(this.room));
    this.feedMmS = larger(this.feedMmS, new Float32Array(this.room));
    this.kind = larger(this.kind, new Uint8Array(this.room));
    this.line = larger(this.line, new Uint32Array(this.room));
  }
}

/** Grows an event table row by row. */
export class EventTableBuilder {
  private readonly kinds = byteColumn();
  private readonly values = float64Column();
  private readonly tools = byteColumn();
  private readonly moves = uint32Column();
  private readonly lines = uint32Column();
  private readonly starts = float64Column();
  private readonly ends = float64Column();

  get count(): number {
    return this.kinds.length;
  }

  /** Adds one event; all figures as in `EventTable`. */
  add(
    kind: EventKind,
    value: number,
    tool: number,
    move: number,
    place: { number: number; startByte: number; endByte: number },
  ): void {
    this.kinds.push(kind);
    this.values.push(value);
    this.tools.push(tool);
    this.moves.push(move);
    this.lines.push(place.number);
    this.starts.push(place.startByte);
    this.ends.push(place.endByte);
  }

  /** The finished table. The builder is empty afterwards. */
  take(): EventTable {
    return {
      count: this.kinds.length,
      kind: this.kinds.take(),
      value: this.values.take(),
      tool: this.tools.take(),
      move: this.moves.take(),
      line: this.lines.take(),
      startByte: this.starts.take(),
      endByte: this.ends.take(),
    };
  }
}
