"use client";
/** A document being edited, with undo: every edit is a new value, and what somebody else changes meanwhile enters all of them. */
import { create, StoreApi, UseBoundStore } from "zustand";

/** Edits closer together than this are one step of undo. */
const ONE_STEP_MS = 700;
const MOST_STEPS = 200;

export interface History<D extends object> {
  now: D;
  past: D[];
  future: D[];
  lastEditAt: number;
  lastGesture: string | null;
  /** Edits of one gesture (a drag from press to release) are one step of undo, however long it takes. */
  edit(change: Partial<D>, gesture?: string): void;
  undo(): void;
  redo(): void;
  /** What somebody else has changed: undoing does not take it back. */
  takeOver(change: Partial<D>): void;
}

export type HistoryStore<D extends object> = UseBoundStore<StoreApi<History<D>>>;

export function createHistory<D extends object>(first: D): HistoryStore<D> {
  return create<History<D>>((set, get) => ({
    now: first,
    past: [],
    future: [],
    lastEditAt: 0,
    lastGesture: null,
    edit(change, gesture) {
      const { now: before, past, lastEditAt, lastGesture } = get();
      const at = Date.now();
      const same =
        gesture === undefined ? lastGesture === null && at - lastEditAt < ONE_STEP_MS : gesture === lastGesture;
      const joins = same && past.length > 0;
      set({
        now: { ...before, ...change },
        past: joins ? past : [...past.slice(-MOST_STEPS), before],
        future: [],
        lastEditAt: at,
        lastGesture: gesture ?? null,
      });
    },
    undo() {
      const { now, past, future } = get();
      const before = past.at(-1);
      if (before)
        set({ now: before, past: past.slice(0, -1), future: [now, ...future], lastEditAt: 0, lastGesture: null });
    },
    redo() {
      const { now, past, future } = get();
      if (future[0])
        set({ now: future[0], past: [...past, now], future: future.slice(1), lastEditAt: 0, lastGesture: null });
    },
    takeOver(change) {
      const { now, past, future } = get();
      const into = (one: D) => ({ ...one, ...change });
      set({ now: into(now), past: past.map(into), future: future.map(into) });
    },
  }));
}
