/**
 * Changes to a program as cuts and insertions at byte offsets: everything else stays byte for byte.
 *
 * A **splice set** is sorted and never overlaps; `spliceSet` is the only way to make one. Laws, kept by property tests:
 * - applying a set to a program gives the same bytes whatever the chunks it comes in;
 * - `apply(compose(a, b), program)` is `apply(b, apply(a, program))`, where `b` was made for what `a` leaves;
 * - the set without splices leaves a program as it is, and composed with any other is that other.
 */
import { refuse, Result, succeed } from "../result";

export interface Splice {
  /** Offset in the original. */
  atByte: number;
  /** How many bytes of the original go; 0 for a plain insertion. */
  removeBytes: number;
  /** How many line ends are among them. */
  removeLines: number;
  /** Text to put there; with bytes taken out it stands for the line that was there. */
  insert: string;
  /** Line of the original it stands before, or that goes; from 0. */
  line: number;
  /** Layer it is for, from 0, where that is known. */
  layer?: number;
  /** Which edit it is of, as it is called on screen. */
  by: string;
}

export interface SpliceSet {
  readonly splices: readonly Splice[];
}

export const noSplices: SpliceSet = { splices: [] };

/**
 * The set of some splices of one program: in the order of its bytes, at one place insertions before removals. Refused with the names
 * of both edits if two of them change the same bytes.
 */
export function spliceSet(splices: readonly Splice[]): Result<SpliceSet> {
  const sorted = splices
    .map((splice, index) => ({ splice, index }))
    .sort(
      (a, b) =>
        a.splice.atByte - b.splice.atByte ||
        Number(a.splice.removeBytes > 0) - Number(b.splice.removeBytes > 0) ||
        a.index - b.index,
    )
    .map(({ splice }) => splice);
  for (let i = 1; i < sorted.length; i++) {
    const [before, splice] = [sorted[i - 1], sorted[i]];
    if (splice.atByte >= before.atByte + before.removeBytes) continue;
    const both = before.by === splice.by ? `“${splice.by}” changes` : `“${before.by}” and “${splice.by}” both change`;
    return refuse(`${both} line ${splice.line + 1}${before.by === splice.by ? " twice" : ""}.`);
  }
  return succeed({ splices: sorted });
}

const encoder = new TextEncoder();
const decoder = new TextDecoder();
/** How many lines end in a text: with CR, LF or both. */
export const linesIn = (text: string): number => text.match(/\r\n|\n|\r/g)?.length ?? 0;

/** A stretch of a changed program: bytes of the original that stay, or bytes that were put in. */
type Piece = { kept: true; from: number; length: number } | { kept: false; bytes: Uint8Array; splice: Splice };

/** One set for two: `second` was made for the program that `first` leaves. */
export function compose(first: SpliceSet, second: SpliceSet): SpliceSet {
  if (first.splices.length === 0) return second;
  if (second.splices.length === 0) return first;
  return new Composer(first, second).compose();
}

class Composer {
  private readonly pieces: Generator<Piece>;
  private readonly removals: Splice[];
  private piece: Piece | null = null;
  /** How much of `piece` was passed. */
  private passed = 0;
  private readonly made: Splice[] = [];
  /** Offset of the original that was come to. */
  private at = 0;
  /** Lines by which `first` has made the program longer up to here. */
  private longerBy = 0;

  constructor(
    first: SpliceSet,
    private readonly second: SpliceSet,
  ) {
    this.removals = first.splices.filter(({ removeBytes }) => removeBytes > 0);
    this.pieces = piecesOf(first);
  }

  compose(): SpliceSet {
    let position = 0;
    for (const splice of this.second.splices) {
      this.pass(splice.atByte - position, false, splice);
      if (splice.insert !== "") this.put({ ...splice, removeBytes: 0, removeLines: 0 }, splice.insert);
      this.pass(splice.removeBytes, true, splice);
      position = splice.atByte + splice.removeBytes;
    }
    this.pass(Infinity, false, null);
    // What the first one takes out goes whatever the second does to what is left.
    const sorted = spliceSet([...this.made, ...this.removals.map((splice) => ({ ...splice, insert: "" }))]);
    if (!sorted.ok) throw new Error(sorted.message);
    return sorted.value;
  }

  /** Passes the next bytes of what the first set leaves, or takes them out. */
  private pass(bytes: number, takeOut: boolean, by: Splice | null): void {
    let left = bytes;
    while (left > 0) {
      if (!this.piece) {
        const next = this.pieces.next();
        if (next.done) return;
        this.piece = next.value;
        this.passed = 0;
        if (!next.value.kept) this.longerBy += linesIn(next.value.splice.insert) - next.value.splice.removeLines;
      }
      const { piece } = this;
      const length = piece.kept ? piece.length : piece.bytes.length;
      const taken = Math.min(left, length - this.passed);
      if (piece.kept) {
        const from = piece.from + this.passed;
        if (takeOut && by) {
          const line = Math.max(0, by.line - this.longerBy);
          // Bytes that lie apart in the original are one line all the same.
          const removeLines = left === bytes ? by.removeLines : 0;
          this.made.push({ ...by, atByte: from, removeBytes: taken, removeLines, insert: "", line });
        }
        this.at = from + taken;
      } else {
        this.at = Math.max(this.at, piece.splice.atByte);
        if (!takeOut && taken > 0) {
          const text = decoder.decode(piece.bytes.subarray(this.passed, this.passed + taken));
          this.made.push({ ...piece.splice, removeBytes: 0, removeLines: 0, insert: text });
        }
      }
      left -= taken;
      this.passed += taken;
      if (this.passed >= length) this.piece = null;
    }
  }

  /** Puts text in where the original was come to. */
  private put(splice: Splice, insert: string): void {
    this.made.push({ ...splice, atByte: this.place(), insert, line: Math.max(0, splice.line - this.longerBy) });
  }

  /** Where the next byte comes from: behind what was removed there, so that order is kept. */
  private place(): number {
    if (this.piece?.kept) return this.piece.from + this.passed;
    return this.piece ? this.piece.splice.atByte : this.at;
  }
}

/** What the set leaves, piece by piece. The last stretch of the original has no end. */
function* piecesOf({ splices }: SpliceSet): Generator<Piece> {
  let from = 0;
  for (const splice of splices) {
    if (splice.atByte > from) yield { kept: true, from, length: splice.atByte - from };
    yield { kept: false, bytes: encoder.encode(splice.insert), splice };
    from = Math.max(from, splice.atByte + splice.removeBytes);
  }
  yield { kept: true, from, length: Infinity };
}

/** Copies a program piece by piece with a set applied. */
export class Splicer {
  private position = 0;
  private next = 0;
  private removeUntil = 0;

  /** @param from where the first chunk begins in the original: what lies before it is not copied */
  constructor(
    private readonly set: SpliceSet,
    from = 0,
  ) {
    this.position = from;
    const { splices } = set;
    while (this.next < splices.length && splices[this.next].atByte < from) {
      const { atByte, removeBytes } = splices[this.next++];
      this.removeUntil = Math.max(this.removeUntil, atByte + removeBytes);
    }
  }

  /** The pieces that stand for the next chunk of the original. They share the chunk's memory. */
  push(chunk: Uint8Array): Uint8Array[] {
    const { splices } = this.set;
    const pieces: Uint8Array[] = [];
    const end = this.position + chunk.length;
    let from = this.position;
    const copyTo = (to: number) => {
      const start = Math.max(from, this.removeUntil);
      if (to > start) pieces.push(chunk.subarray(start - this.position, to - this.position));
      from = Math.max(from, to);
    };
    while (this.next < splices.length && splices[this.next].atByte < end) {
      const splice = splices[this.next++];
      copyTo(splice.atByte);
      if (splice.insert !== "") pieces.push(encoder.encode(splice.insert));
      this.removeUntil = Math.max(this.removeUntil, splice.atByte + splice.removeBytes);
    }
    copyTo(end);
    this.position = end;
    return pieces;
  }

  /** What still stands behind the last byte. */
  end(): Uint8Array[] {
    return this.set.splices.slice(this.next).flatMap(({ insert }) => (insert === "" ? [] : [encoder.encode(insert)]));
  }
}

/** The pieces of a program that comes in chunks, with a set applied. */
export function* splicedChunks(chunks: Iterable<Uint8Array>, set: SpliceSet, from = 0): Generator<Uint8Array> {
  const splicer = new Splicer(set, from);
  for (const chunk of chunks) yield* splicer.push(chunk);
  yield* splicer.end();
}

/** The whole changed program, for programs that lie in memory. */
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
