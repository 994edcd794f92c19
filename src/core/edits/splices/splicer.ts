/** Copies of programs with splices applied: the same bytes whatever the chunks a program comes in (kept by property tests). */
import { SpliceCursor, SpliceSet } from "./packed";

/** Copies a program piece by piece with a set applied. */
export class Splicer {
  private readonly splice: SpliceCursor;
  private isThere: boolean;
  private position = 0;
  private removeUntil = 0;

  /** @param from where the first chunk begins in the original: what lies before it is not copied */
  constructor(set: SpliceSet, from = 0) {
    this.position = from;
    this.splice = new SpliceCursor(set);
    for (let block = this.splice.blockAhead; block && block.untilByte < from; block = this.splice.blockAhead) {
      this.splice.skipBlock();
    }
    this.isThere = this.splice.next();
    while (this.isThere && this.splice.atByte < from) this.pass();
  }

  private pass(): void {
    this.removeUntil = Math.max(this.removeUntil, this.splice.atByte + this.splice.removeBytes);
    this.isThere = this.splice.next();
  }

  /** The pieces that stand for the next chunk of the original. They share the chunk's memory. */
  push(chunk: Uint8Array): Uint8Array[] {
    const { splice } = this;
    const pieces: Uint8Array[] = [];
    const end = this.position + chunk.length;
    let from = this.position;
    const copyTo = (to: number) => {
      const start = Math.max(from, this.removeUntil);
      if (to > start) pieces.push(chunk.subarray(start - this.position, to - this.position));
      from = Math.max(from, to);
    };
    while (this.isThere && splice.atByte < end) {
      copyTo(splice.atByte);
      if (splice.hasText) pieces.push(splice.insert);
      this.pass();
    }
    copyTo(end);
    this.position = end;
    return pieces;
  }

  /** What still stands behind the last byte. Throws where the changes were made for a longer program. */
  end(): Uint8Array[] {
    const pieces: Uint8Array[] = [];
    for (; this.isThere; this.pass()) {
      if (this.splice.atByte > this.position) break;
      if (this.splice.hasText) pieces.push(this.splice.insert);
    }
    if (this.isThere || this.removeUntil > this.position) {
      throw new Error(`These changes are for another program: this one ends at byte ${this.position}.`);
    }
    return pieces;
  }
}

/** Lines that are changed one by one come in one piece of about this size, so that who reads them has few to take. */
const PIECE_BYTES = 1 << 16;

/** The program that comes in chunks, with a set applied. */
export function* splicedChunks(chunks: Iterable<Uint8Array>, set: SpliceSet, from = 0): Generator<Uint8Array> {
  const splicer = new Splicer(set, from);
  for (const chunk of chunks) yield* joinedPieces(splicer.push(chunk));
  yield* joinedPieces(splicer.end());
}

/** Small pieces put together; large ones go on as they are. */
function* joinedPieces(pieces: readonly Uint8Array[]): Generator<Uint8Array> {
  let small: Uint8Array | null = null;
  let used = 0;
  for (const piece of pieces) {
    if (small && used + piece.length > PIECE_BYTES) {
      yield small.subarray(0, used);
      small = null;
    }
    if (piece.length * 2 > PIECE_BYTES) {
      if (small) yield small.subarray(0, used);
      small = null;
      yield piece;
      continue;
    }
    if (!small) [small, used] = [new Uint8Array(PIECE_BYTES), 0];
    small.set(piece, used);
    used += piece.length;
  }
  if (small) yield small.subarray(0, used);
}

/**
 * The whole changed program, for programs that lie in memory.
 *
 * @example
 * const set = spliceSet([{ atByte: 4, removeBytes: 0, removeLines: 0, insert: "M107\n", line: 1, by: "fan" }]).value;
 * textOf(applySplices(bytesOf("G28\nG1 X1\n"), set)); // "G28\nM107\nG1 X1\n"
 */
export function applySplices(bytes: Uint8Array, set: SpliceSet): Uint8Array<ArrayBuffer> {
  const pieces = [...splicedChunks([bytes], set)];
  const whole = new Uint8Array(pieces.reduce((sum, { length }) => sum + length, 0));
  let at = 0;
  for (const piece of pieces) {
    whole.set(piece, at);
    at += piece.length;
  }
  return whole;
}
