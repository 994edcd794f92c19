/** Keeps a simulated printer running: moves its clock on, hands bytes to and fro, and keeps what it has saved. */
import { Printer } from "@/core/shelf/printer";
import { SimulatedPrinter } from "@/core/simulator/machine";
import { personalities } from "@/core/simulator/personalities";

export const SLOWEST_RATE = 1;
export const FASTEST_RATE = 500;
/** Looks at the clock this often while something moves, and while nothing does. */
const BUSY_TICK_MS = 1;
const IDLE_TICK_MS = 40;
/** If this program was busy elsewhere, the printer's clock waits for it rather than leap. */
const LONGEST_LEAP_MS = 60;
/** Metal that cooled while nobody was connected need not be computed to the end. */
const LONGEST_PAUSE_S = 1800;

export interface SavedMemory {
  load(): Record<string, number> | undefined;
  store(saved: Record<string, number>): void;
}

export class SimulatorHost<P extends Printer = Printer> {
  readonly machine: SimulatedPrinter;
  private sink: ((text: string) => void) | null = null;
  private lost: ((reason: string) => void) | null = null;
  private pending = "";
  private flushing = false;
  private timer: ReturnType<typeof setTimeout> | null = null;
  private lastMs = performance.now();
  private kept: Record<string, number>;

  constructor(
    readonly printer: P,
    private readonly memory: SavedMemory,
    public rate = 1,
  ) {
    this.machine = new SimulatedPrinter(printer, personalities[printer.dialect], (text) => this.emit(text), {
      saved: memory.load(),
    });
    this.kept = this.machine.memory.saved;
  }

  /** Plugs the cable in; answers go to `onText`. Returns what pulls it out again. */
  attach(onText: (text: string) => void, onLost: (reason: string) => void): () => void {
    this.pull("Somebody else took the cable.");
    // What was said while nobody listened is gone.
    this.pending = "";
    const asleepS = Math.min(LONGEST_PAUSE_S, ((performance.now() - this.lastMs) / 1000) * this.rate);
    this.lastMs = performance.now();
    if (!this.timer) this.machine.advance(asleepS);
    this.sink = onText;
    this.lost = onLost;
    this.tick();
    return () => {
      if (this.sink !== onText) return;
      this.sink = null;
      this.lost = null;
    };
  }

  /** Pulls the cable. */
  pull(reason = "The cable was pulled."): void {
    const { lost } = this;
    this.sink = null;
    this.lost = null;
    lost?.(reason);
  }

  receive(text: string): void {
    this.catchUp();
    this.machine.receive(text);
    this.keep();
  }

  /** Power off and on again; the cable stays in. */
  powerCycle(): void {
    this.catchUp();
    this.machine.powerCycle();
  }

  setRate(rate: number): void {
    this.catchUp();
    this.rate = Math.min(FASTEST_RATE, Math.max(SLOWEST_RATE, rate));
  }

  stop(): void {
    if (this.timer) clearTimeout(this.timer);
    this.timer = null;
    this.sink = null;
  }

  /** Brings the printer's clock up to now. */
  catchUp(): void {
    const now = performance.now();
    const realMs = Math.min(LONGEST_LEAP_MS, now - this.lastMs);
    this.lastMs = now;
    this.machine.advance((realMs / 1000) * this.rate);
  }

  private tick(): void {
    if (this.timer) clearTimeout(this.timer);
    this.catchUp();
    this.keep();
    if (!this.sink && this.machine.idle && !this.isHot()) {
      this.timer = null;
      return;
    }
    this.timer = setTimeout(() => this.tick(), this.machine.idle ? IDLE_TICK_MS : BUSY_TICK_MS);
    this.timer.unref();
  }

  private isHot(): boolean {
    return [...this.machine.nozzles, this.machine.bed].some(({ setC }) => setC > 0);
  }

  /** Answers of one moment go out together, after what caused them is through. */
  private emit(text: string): void {
    if (!this.sink) return;
    this.pending += text;
    if (this.flushing) return;
    this.flushing = true;
    setImmediate(() => {
      this.flushing = false;
      const out = this.pending;
      this.pending = "";
      this.sink?.(out);
      // The work that follows an answer wants a lively clock.
      if (this.timer && !this.machine.idle) this.tick();
    });
  }

  private keep(): void {
    const { saved } = this.machine.memory;
    // Saving makes a new record of the figures.
    if (saved === this.kept) return;
    this.kept = saved;
    this.memory.store(saved);
  }
}
