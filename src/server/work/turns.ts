/** Long work of the main thread, done in slices. */

/** A slice is no longer than this; then everything else has its turn. */
const SLICE_MS = 12;

/** Says when it is time to let others have their turn. */
export class Turns {
  private sinceMs = performance.now();

  /** Whether this slice has been long enough. */
  get isLong(): boolean {
    return performance.now() - this.sinceMs > SLICE_MS;
  }

  /** Lets others have their turn; rejects if the caller has gone away. */
  async next(signal?: AbortSignal): Promise<void> {
    await new Promise((resolve) => setImmediate(resolve));
    signal?.throwIfAborted();
    this.sinceMs = performance.now();
  }

  /** Goes through a list: each step as soon as there is time for it. */
  async each<T>(list: readonly T[], act: (one: T, index: number) => void, signal?: AbortSignal): Promise<void> {
    for (const [index, one] of list.entries()) {
      act(one, index);
      if (this.isLong) await this.next(signal);
    }
  }
}
