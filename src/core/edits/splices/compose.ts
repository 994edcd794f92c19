/**
 * Two sets of splices as one, where the second was made for the program that the first leaves.
 *
 * Law, kept by property tests: `apply(compose(a, b), program)` is `apply(b, apply(a, program))`; the set without splices, composed with
 * any other, is that other.
 */
import { SpliceGatherer } from "./gather";
import { SpliceCursor, SpliceSet } from "./packed";
import { ByteSplice, linesIn } from "./splice";

/** A stretch of a changed program: bytes of the original that stay, or bytes that were put in. */
type Piece = { kept: true; from: number; length: number } | { kept: false; bytes: Uint8Array; splice: ByteSplice };

export function compose(first: SpliceSet, second: SpliceSet): SpliceSet {
  if (first.count === 0) return second;
  if (second.count === 0) return first;
  return new Composer(first, second).compose();
}

const NOTHING = new Uint8Array(0);

class Composer {
  private readonly pieces: Generator<Piece>;
  private piece: Piece | null = null;
  /** How much of `piece` was passed. */
  private passed = 0;
  // Both are bounded, and so is what they come to.
  private readonly made = new SpliceGatherer(false, Infinity);
  /** Offset of the original that was come to. */
  private at = 0;
  /** Lines by which `first` has made the program longer up to here. */
  private longerBy = 0;

  constructor(
    first: SpliceSet,
    private readonly second: SpliceSet,
  ) {
    this.pieces = this.piecesOf(first);
  }

  compose(): SpliceSet {
    let position = 0;
    const splice = new SpliceCursor(this.second);
    while (splice.next()) {
      this.pass(splice.atByte - position, null);
      if (splice.hasText) {
        const line = Math.max(0, splice.line - this.longerBy);
        this.add(splice, { atByte: this.place(), removeBytes: 0, removeLines: 0, insert: splice.insert, line });
      }
      this.pass(splice.removeBytes, splice);
      position = splice.atByte + splice.removeBytes;
    }
    this.pass(Infinity, null);
    const set = this.made.finish();
    if (!set.ok) throw new Error(set.message);
    return set.value;
  }

  private add({ layer, by }: ByteSplice, changed: Omit<ByteSplice, "layer" | "by">): void {
    this.made.add({ ...changed, layer, by });
  }

  /** Passes the next bytes of what the first set leaves, or takes them out. */
  private pass(bytes: number, takenOutBy: ByteSplice | null): void {
    let left = bytes;
    while (left > 0) {
      if (!this.piece) {
        const next = this.pieces.next();
        if (next.done) return;
        this.piece = next.value;
        this.passed = 0;
        if (!next.value.kept) this.longerBy += linesIn(next.value.bytes) - next.value.splice.removeLines;
      }
      const { piece } = this;
      const length = piece.kept ? piece.length : piece.bytes.length;
      const taken = Math.min(left, length - this.passed);
      if (piece.kept) {
        const atByte = piece.from + this.passed;
        if (takenOutBy) {
          const line = Math.max(0, takenOutBy.line - this.longerBy);
          // Bytes that lie apart in the original are one line all the same: it ends with the last of them.
          const removeLines = left === taken ? takenOutBy.removeLines : 0;
          this.add(takenOutBy, { atByte, removeBytes: taken, removeLines, insert: NOTHING, line });
        }
        this.at = atByte + taken;
      } else {
        this.at = Math.max(this.at, piece.splice.atByte);
        if (!takenOutBy && taken > 0) {
          const insert = piece.bytes.subarray(this.passed, this.passed + taken);
          this.add(piece.splice, { ...piece.splice, removeBytes: 0, removeLines: 0, insert });
        }
      }
      left -= taken;
      this.passed += taken;
      if (this.passed >= length) this.piece = null;
    }
  }

  /** Where the next byte comes from: behind what was removed there, so that order is kept. */
  private place(): number {
    if (this.piece?.kept) return this.piece.from + this.passed;
    return this.piece ? this.piece.splice.atByte : this.at;
  }

  /** What the first set leaves, piece by piece. The last stretch of the original has no end. */
  private *piecesOf(set: SpliceSet): Generator<Piece> {
    let from = 0;
    const cursor = new SpliceCursor(set);
    while (cursor.next()) {
      const { atByte, removeBytes, removeLines, insert, line, layer, by } = cursor;
      if (atByte > from) yield { kept: true, from, length: atByte - from };
      const splice = { atByte, removeBytes, removeLines, insert, line, layer, by };
      // What the first one takes out goes whatever the second does to what is left.
      if (removeBytes > 0) this.made.add({ ...splice, insert: NOTHING });
      yield { kept: false, bytes: insert, splice };
      from = Math.max(from, atByte + removeBytes);
    }
    yield { kept: true, from, length: Infinity };
  }
}
