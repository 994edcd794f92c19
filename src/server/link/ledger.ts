/**
 * What is written down about what was done. Acting comes first: nothing here ever throws or holds an act up. What the disk does not
 * take is kept, the newest by each key, and tried again until it does; meanwhile there is a sentence that says so.
 */
import { storageTrouble } from "../db/trouble";
import { log } from "../log";

const AGAIN_EVERY_MS = 1000;
/** Entries that may wait. Progress replaces progress, so only changes by hand and ends of jobs add up. */
const MOST_WAITING = 2000;

export class Ledger {
  /** What is wrong with the disk; null if all is written. */
  trouble: string | null = null;
  private readonly waiting = new Map<string, () => void>();
  private timer: ReturnType<typeof setTimeout> | null = null;

  constructor(private readonly onTrouble: () => void = () => undefined) {}

  /** Writes now if it can, else later; a newer entry of the same key takes the place of one that waits. */
  write(key: string, entry: () => void): void {
    this.waiting.delete(key);
    if (this.waiting.size < MOST_WAITING) this.waiting.set(key, entry);
    // While the disk refuses, the timer alone tries: a line's progress must not cost a failed write each time.
    if (!this.timer) this.settle();
  }

  /** Whether an entry of this key still waits. */
  has(key: string): boolean {
    return this.waiting.has(key);
  }

  /** Tries everything that waits, in order, up to the first that fails. */
  settle(): void {
    if (this.timer) clearTimeout(this.timer);
    this.timer = null;
    const before = this.trouble;
    this.trouble = null;
    for (const [key, entry] of this.waiting) {
      try {
        entry();
        this.waiting.delete(key);
      } catch (error) {
        this.trouble = storageTrouble(error) ?? "What was done could not be written down; the log says more.";
        if (before === null) log().error({ err: error, key }, "could not write down what was done");
        break;
      }
    }
    if (this.waiting.size > 0) {
      this.timer = setTimeout(() => this.settle(), AGAIN_EVERY_MS);
      this.timer.unref();
    }
    if (before !== this.trouble) this.onTrouble();
  }
}
