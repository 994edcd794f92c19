/** Growable typed columns: a table of millions of rows grows without ever being copied whole. */

type Numeric = Float64Array | Uint8Array | Uint32Array;

const CHUNK_BITS = 15;
const CHUNK_SIZE = 1 << CHUNK_BITS;

export class Column<A extends Numeric> {
  length = 0;
  private chunks: A[] = [];
  private tail: A;

  constructor(private readonly make: (length: number) => A) {
    this.tail = make(CHUNK_SIZE);
    this.chunks.push(this.tail);
  }

  push(value: number): void {
    const at = this.length & (CHUNK_SIZE - 1);
    if (at === 0 && this.length > 0) {
      this.tail = this.make(CHUNK_SIZE);
      this.chunks.push(this.tail);
    }
    this.tail[at] = value;
    this.length++;
  }

  /** All rows as one array. The column is empty afterwards, so that its memory is given back at once. */
  take(): A {
    const whole = this.make(this.length);
    let at = 0;
    for (let i = 0; i < this.chunks.length; i++) {
      const chunk = this.chunks[i];
      const left = this.length - at;
      whole.set((left < chunk.length ? chunk.subarray(0, left) : chunk) as never, at);
      at += chunk.length;
      (this.chunks as unknown[])[i] = undefined;
    }
    this.tail = this.make(CHUNK_SIZE);
    this.chunks = [this.tail];
    this.length = 0;
    return whole;
  }
}

export const float64Column = () => new Column((length) => new Float64Array(length));
export const byteColumn = () => new Column((length) => new Uint8Array(length));
export const uint32Column = () => new Column((length) => new Uint32Array(length));
