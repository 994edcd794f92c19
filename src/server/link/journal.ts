/** Numbers the events of all links, keeps them, and hands them to whoever listens. */
import type { LinkEvent } from "@/core/link/state";
import { linkEvents } from "../db/link-events";

/** Events wait so long at most before they are on the disk. */
const STORE_EVERY_MS = 100;
/** Numbers left free at a start, for events that were shown but not stored when the program ended. */
const SAFE_GAP = 10_000;

export class Journal {
  private nextId: number;
  private waiting: (LinkEvent & { printerId: number })[] = [];
  private timer: ReturnType<typeof setTimeout> | null = null;
  private readonly listeners = new Set<(printerId: number, event: LinkEvent) => void>();

  constructor() {
    this.nextId = linkEvents.lastId() + SAFE_GAP;
  }

  add(printerId: number, event: Omit<LinkEvent, "id">): void {
    const numbered = { ...event, id: this.nextId++ };
    this.waiting.push({ ...numbered, printerId });
    for (const listener of this.listeners) listener(printerId, numbered);
    this.timer ??= setTimeout(() => this.store(), STORE_EVERY_MS);
  }

  /** Writes what waits. */
  store(): void {
    if (this.timer) clearTimeout(this.timer);
    this.timer = null;
    const events = this.waiting;
    this.waiting = [];
    if (events.length > 0) linkEvents.addAll(events);
  }

  listen(listener: (printerId: number, event: LinkEvent) => void): () => void {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  }
}
