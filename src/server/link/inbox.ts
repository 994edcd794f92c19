/** Bytes of a printer as they come, heard a moment at a time: a printer that says very much at once keeps nobody waiting. */

/** So long in one breath; then requests have their turn, the stop before all. */
const AT_ONCE_MS = 8;
/** Bytes heard between two looks at the clock. */
const PIECE_BYTES = 2048;
/** Bytes that wait; of a printer that says more in a moment the rest is left out. */
const MOST_WAITING = 64_000_000;

export class Inbox {
  private waiting: Uint8Array[] = [];
  private bytes = 0;
  private isFull = false;
  private hearing = false;

  /**
   * @param hear takes a piece; false where nobody listens any more
   * @param onQuiet everything that came was heard
   * @param onFull more came than can wait
   */
  constructor(
    private readonly hear: (piece: Uint8Array) => boolean,
    private readonly onQuiet: () => void,
    private readonly onFull: () => void,
  ) {}

  /** Whether more has come than was heard so far. */
  get isBusy(): boolean {
    return this.hearing;
  }

  push(bytes: Uint8Array): void {
    if (this.bytes + bytes.length > MOST_WAITING) {
      if (!this.isFull) this.onFull();
      this.isFull = true;
      return;
    }
    this.waiting.push(bytes);
    this.bytes += bytes.length;
    if (!this.hearing) this.hearOn();
  }

  private hearOn(): void {
    const untilMs = performance.now() + AT_ONCE_MS;
    this.hearing = true;
    while (this.waiting.length > 0) {
      const [next] = this.waiting;
      if (!this.hear(next.subarray(0, PIECE_BYTES))) break;
      if (next.length > PIECE_BYTES) this.waiting[0] = next.subarray(PIECE_BYTES);
      else this.waiting.shift();
      if (performance.now() > untilMs && this.waiting.length > 0) {
        setImmediate(() => this.hearOn());
        return;
      }
    }
    this.hearing = this.isFull = false;
    this.waiting = [];
    this.bytes = 0;
    this.onQuiet();
  }
}
