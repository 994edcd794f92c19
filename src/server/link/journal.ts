/** Numbers the events of all links, keeps them, and hands them to whoever listens. */
import type { LinkEvent } from "@/core/link/state";
import { KeptEvent, linkEvents } from "../db/link-events";
import { Ledger } from "./ledger";

/** Events wait so long at most before they are on the disk. */
const STORE_EVERY_MS = 100;
/** Written in one breath: so many take the disk some milliseconds. */
const MOST_AT_ONCE = 4000;
/** Numbers left free at a start, for events that were shown but not stored when the program ended. */
const SAFE_GAP = 10_000;
/** Events held in memory while the disk does not take them; of more, the oldest go. */
const MOST_WAITING = 50_000;

export class Journal {
  /** What is wrong with the disk; null if all is stored. */
  readonly ledger: Ledger;
  private nextId: number;
  private waiting: KeptEvent[] = [];
  private lost = 0;
  private timer: ReturnType<typeof setTimeout> | null = null;
  private readonly listeners = new Set<(printerId: number, event: LinkEvent) => void>();

  constructor(onTrouble: () => void) {
    this.ledger = new Ledger(onTrouble);
    this.nextId = linkEvents.lastId() + SAFE_GAP;
  }

  add(printerId: number, event: Omit<LinkEvent, "id">, jobId: number | null = null): void {
    const numbered = { ...event, id: this.nextId++ };
    this.waiting.push({ ...numbered, printerId, jobId });
    if (this.waiting.length > MOST_WAITING) {
      this.lost += this.waiting.length - MOST_WAITING / 2;
      this.waiting = this.waiting.slice(-MOST_WAITING / 2);
    }
    for (const listener of this.listeners) listener(printerId, numbered);
    this.timer ??= setTimeout(() => this.store(), STORE_EVERY_MS);
  }

  /** Writes what waits; what the disk does not take goes on waiting. */
  store(): void {
    if (this.timer) clearTimeout(this.timer);
    this.timer = null;
    if (this.waiting.length === 0) return;
    this.ledger.write("talk", () => {
      while (this.waiting.length > 0) {
        const events = this.waiting.slice(0, MOST_AT_ONCE);
        linkEvents.addAll(this.lost > 0 ? [this.gap(events[0]), ...events] : events);
        this.lost = 0;
        this.waiting = this.waiting.slice(events.length);
        // The rest is not forgotten, only not in this breath.
        if (this.waiting.length > 0) {
          this.timer ??= setTimeout(() => this.store(), 0);
          return;
        }
      }
    });
  }

  listen(listener: (printerId: number, event: LinkEvent) => void): () => void {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  }

  private gap(before: KeptEvent): KeptEvent {
    const text = `${this.lost} lines could not be stored while the disk took nothing.`;
    return { ...before, id: before.id - 1, direction: "note", source: "console", text, jobId: null };
  }
}
