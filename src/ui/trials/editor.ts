"use client";
/** The trial being edited: its history for undo, its way to the server, and what the worker makes of it. */
import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { create, StoreApi, UseBoundStore } from "zustand";
import type { HeightPlan } from "@/core/heightplan/plan";
import { heightPlanSchema } from "@/core/heightplan/plan";
import { printerSchema } from "@/core/shelf/printer";
import { spoolSchema } from "@/core/shelf/spool";
import type { Trial } from "@/core/trials/trial";
import { TrialClient } from "@/workers/trial-client";
import type { TrialView } from "@/workers/trial-messages";
import { api, ApiError, SavedPrinter, SavedSpool } from "../common/api";

/** Edits closer together than this are one step of undo. */
const ONE_STEP_MS = 700;
const SAVE_AFTER_MS = 350;
const MOST_STEPS = 200;

export type TrialEdit = Partial<Omit<Trial, "id" | "kind" | "createdAt" | "updatedAt">>;

export interface EditorState {
  trial: Trial;
  past: Trial[];
  future: Trial[];
  lastEditAt: number;
  lastGesture: string | null;
  /** Edits of one gesture (a drag from press to release) are one step of undo, however long it takes. */
  edit(change: TrialEdit, gesture?: string): void;
  editPlan(change: (plan: HeightPlan) => HeightPlan, gesture?: string): void;
  undo(): void;
  redo(): void;
  /** The server has stored the trial: its date is taken over. */
  saved(updatedAt: string): void;
}

export type EditorStore = UseBoundStore<StoreApi<EditorState>>;

export function createEditor(trial: Trial): EditorStore {
  return create<EditorState>((set, get) => ({
    trial,
    past: [],
    future: [],
    lastEditAt: 0,
    lastGesture: null,
    edit(change, gesture) {
      const { trial: before, past, lastEditAt, lastGesture } = get();
      const now = Date.now();
      const same =
        gesture === undefined ? lastGesture === null && now - lastEditAt < ONE_STEP_MS : gesture === lastGesture;
      const joins = same && past.length > 0;
      set({
        trial: { ...before, ...change },
        past: joins ? past : [...past.slice(-MOST_STEPS), before],
        future: [],
        lastEditAt: now,
        lastGesture: gesture ?? null,
      });
    },
    editPlan: (change, gesture) => get().edit({ plan: change(get().trial.plan) }, gesture),
    undo() {
      const { trial: now, past, future } = get();
      const before = past[past.length - 1];
      if (before)
        set({
          trial: { ...before, updatedAt: now.updatedAt },
          past: past.slice(0, -1),
          future: [now, ...future],
          lastEditAt: 0,
          lastGesture: null,
        });
    },
    redo() {
      const { trial: now, past, future } = get();
      if (future[0])
        set({
          trial: { ...future[0], updatedAt: now.updatedAt },
          past: [...past, now],
          future: future.slice(1),
          lastEditAt: 0,
          lastGesture: null,
        });
    },
    saved: (updatedAt) => set(({ trial: now }) => ({ trial: { ...now, updatedAt } })),
  }));
}

/** What is stored of a trial; what the server adds to it is left out. */
const fieldsOf = (trial: Trial): TrialEdit => {
  const { name, printerId, spoolId, layerHeightMm, firstLayerHeightMm, plan, fixed, tool, options } = trial;
  return { name, printerId, spoolId, layerHeightMm, firstLayerHeightMm, plan, fixed, tool, options };
};

/** Saves the trial a moment after each edit. `flush` saves at once and waits. */
export function useAutosave(store: EditorStore): { flush(): Promise<void>; problem: string | null; saving: boolean } {
  const client = useQueryClient();
  const [problem, setProblem] = useState<string | null>(null);
  const [saving, setSaving] = useState(false);
  const stored = useRef(JSON.stringify(fieldsOf(store.getState().trial)));
  const flush = useRef(async () => {});
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout> | undefined;
    let running: Promise<void> = Promise.resolve();
    const save = async () => {
      const { trial, saved } = store.getState();
      const body = JSON.stringify(fieldsOf(trial));
      if (body === stored.current) return;
      setSaving(true);
      try {
        const answer = await api.put<Trial>(`/trials/${trial.id}`, fieldsOf(trial));
        stored.current = body;
        setProblem(null);
        saved(answer.updatedAt);
        void client.invalidateQueries({ queryKey: ["trials"] });
      } catch (error) {
        setProblem(error instanceof ApiError ? error.message : "The trial could not be saved.");
        throw error;
      } finally {
        setSaving(false);
      }
    };
    flush.current = () => {
      clearTimeout(timer);
      running = running.catch(() => undefined).then(save);
      return running;
    };
    const stop = store.subscribe((now, before) => {
      if (now.trial === before.trial) return;
      clearTimeout(timer);
      timer = setTimeout(() => void flush.current().catch(() => undefined), SAVE_AFTER_MS);
    });
    return () => {
      stop();
      // What was typed last is not lost when the page is left.
      void flush.current().catch(() => undefined);
    };
  }, [store, client]);
  return { flush: () => flush.current(), problem, saving };
}

/** What the worker makes of the trial as it stands; null until the first answer. */
export function useTrialView(trial: Trial, printer: SavedPrinter | null, spool: SavedSpool | null) {
  const [view, setView] = useState<TrialView | null>(null);
  const [failure, setFailure] = useState<string | null>(null);
  const [client, setClient] = useState<TrialClient | null>(null);
  useEffect(() => {
    const made = new TrialClient(
      (next) => {
        setView(next);
        setFailure(null);
      },
      (message) => setFailure(message),
    );
    setClient(made);
    return () => made.close();
  }, []);
  // Only what changes the file counts; the date counts by its day.
  const key = JSON.stringify([fieldsOf(trial), trial.updatedAt.slice(0, 10), printer, spool]);
  useEffect(() => {
    if (!client || !printer || !spool) return;
    const plan = heightPlanSchema.safeParse(trial.plan);
    if (!plan.success) {
      setFailure(plan.error.issues[0].message);
      return;
    }
    client.build({ trial, printer: printerSchema.parse(printer), spool: spoolSchema.parse(spool) });
    // `key` stands for trial, printer and spool.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [client, key]);
  return { view, failure, client };
}
