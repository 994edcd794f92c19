/** Changes to a program as cuts and insertions at byte offsets: everything else stays byte for byte. */

export interface Splice {
  /** Offset in the original. */
  atByte: number;
  /** How many bytes of the original go; 0 for a plain insertion. */
  removeBytes: number;
  /** Text to put there; with bytes taken out it stands for the line that was there. */
  insert: string;
  /** Line of the original it stands before, or that goes; from 0. */
  line: number;
  /** Layer it is for, from 0, where that is known. */
  layer?: number;
}

/** Splices in the order of the program; at one place removals come after insertions. */
export function sortSplices(splices: Splice[]): Splice[] {
  return [...splices].sort((a, b) => a.atByte - b.atByte || a.removeBytes - b.removeBytes);
}

/** Copies a program piece by piece with its splices applied. Give it sorted splices that do not overlap. */
export class Splicer {
  private position = 0;
  private next = 0;
  private removeUntil = 0;
  private readonly encoder = new TextEncoder();

  constructor(private readonly splices: readonly Splice[]) {}

  /** The pieces that stand for the next chunk of the original. They share the chunk's memory. */
  push(chunk: Uint8Array): Uint8Array[] {
    const pieces: Uint8Array[] = [];
    const end = this.position + chunk.length;
    let from = this.position;
    const copyTo = (to: number) => {
      const start = Math.max(from, this.removeUntil);
      if (to > start) pieces.push(chunk.subarray(start - this.position, to - this.position));
      from = Math.max(from, to);
    };
    while (this.next < this.splices.length && this.splices[this.next].atByte < end) {
      const splice = this.splices[this.next++];
      copyTo(splice.atByte);
      if (splice.insert !== "") pieces.push(this.encoder.encode(splice.insert));
      this.removeUntil = Math.max(this.removeUntil, splice.atByte + splice.removeBytes);
    }
    copyTo(end);
    this.position = end;
    return pieces;
  }

  /** What still stands behind the last byte. */
  end(): Uint8Array[] {
    return this.splices.slice(this.next).flatMap(({ insert }) => (insert === "" ? [] : [this.encoder.encode(insert)]));
  }
}

/** The whole edited program, for programs that lie in memory. */
export function applySplices(bytes: Uint8Array, splices: Splice[]): Uint8Array<ArrayBuffer> {
  const splicer = new Splicer(sortSplices(splices));
  const pieces = [...splicer.push(bytes), ...splicer.end()];
  const whole = new Uint8Array(pieces.reduce((sum, { length }) => sum + length, 0));
  let at = 0;
  for (const piece of pieces) {
    whole.set(piece, at);
    at += piece.length;
  }
  return whole;
}
