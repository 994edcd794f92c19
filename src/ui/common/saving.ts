"use client";
/**
 * Keeps a document that is being edited on the server: what was changed, a moment after each edit, with the version it was seen in.
 * What somebody else changed meanwhile is merged where it does not contradict, asked about where it does, and followed where nothing
 * was changed here. Leaving the page loses nothing.
 */
import { useCallback, useEffect, useRef, useState } from "react";
import { changedFields, merge } from "@/core/merge";
import { ApiError } from "./api";
import type { HistoryStore } from "./history";

/** A document as the server has it. */
export interface Kept<F> {
  fields: F;
  version: number;
}

export interface Clash<F> {
  theirs: Kept<F>;
  /** The fields both have changed. */
  fields: (keyof F)[];
}

interface SavingOptions<D extends object, F extends object> {
  history: HistoryStore<D>;
  /** The document as it was loaded, and as it is known to stand on the server later on. */
  kept: Kept<F>;
  afterMs: number;
  /** What of the document is stored. */
  fieldsOf(document: D): F;
  /** Stores changes; `leaving` means that the page goes away and nobody waits. */
  put(changes: Partial<F>, version: number, leaving: boolean): Promise<Kept<F>>;
  /** The document in the answer of a refused save. */
  readCurrent(current: unknown): Kept<F>;
  onSaved?(): void;
}

export interface Saving<F> {
  /** Saves at once and waits. */
  flush(): Promise<void>;
  problem: string | null;
  /** The field it is about, where that is said. */
  problemField: string | null;
  saving: boolean;
  clash: Clash<F> | null;
  settle(whose: "mine" | "theirs"): void;
}

export function useSaving<D extends object, F extends object>(options: SavingOptions<D, F>): Saving<F> {
  const { history, kept, afterMs } = options;
  const [problem, setProblem] = useState<string | null>(null);
  const [problemField, setProblemField] = useState<string | null>(null);
  const [saving, setSaving] = useState(false);
  const [clash, setClash] = useState<Clash<F> | null>(null);
  const base = useRef(kept);
  const latest = useRef(options);
  latest.current = options;
  const flush = useRef(async () => {});

  /** Goes on from what the server has now: merged, or asked about. Whether there is something of mine left to save. */
  const meet = useCallback(
    (theirs: Kept<F>): boolean => {
      const mine = latest.current.fieldsOf(history.getState().now);
      const met = merge(base.current.fields, mine, theirs.fields);
      if (met.conflicts.length > 0) {
        setClash({ theirs, fields: met.conflicts });
        return false;
      }
      base.current = theirs;
      history.getState().takeOver(changedFields(mine, met.merged) as unknown as Partial<D>);
      return Object.keys(met.changes).length > 0;
    },
    [history],
  );

  useEffect(() => {
    let timer: ReturnType<typeof setTimeout> | undefined;
    let running: Promise<void> = Promise.resolve();
    const save = async (leaving = false): Promise<void> => {
      const { fieldsOf, put, readCurrent, onSaved } = latest.current;
      const changes = changedFields(base.current.fields, fieldsOf(history.getState().now));
      if (Object.keys(changes).length === 0) return;
      setSaving(true);
      try {
        base.current = await put(changes, base.current.version, leaving);
        setProblem(null);
        setProblemField(null);
        onSaved?.();
      } catch (error) {
        if (error instanceof ApiError && error.status === 409 && error.current !== undefined) {
          if (meet(readCurrent(error.current))) return await save(leaving);
          return;
        }
        setProblem(error instanceof ApiError ? error.message : "It could not be saved.");
        setProblemField(error instanceof ApiError ? (error.field ?? null) : null);
        throw error;
      } finally {
        setSaving(false);
      }
    };
    const now = (leaving: boolean) => {
      clearTimeout(timer);
      if (leaving) return save(true);
      running = running.catch(() => undefined).then(() => save());
      return running;
    };
    flush.current = () => now(false);
    const stop = history.subscribe((next, before) => {
      if (next.now === before.now) return;
      clearTimeout(timer);
      timer = setTimeout(() => void now(false).catch(() => undefined), afterMs);
    });
    const leave = () => void now(true).catch(() => undefined);
    window.addEventListener("pagehide", leave);
    return () => {
      window.removeEventListener("pagehide", leave);
      stop();
      void now(false).catch(() => undefined);
    };
  }, [history, afterMs, meet]);

  // Another page has stored something: follow it, unless there is something of mine that will meet it when it is saved.
  useEffect(() => {
    if (kept.version <= base.current.version) return;
    if (meet(kept)) void flush.current().catch(() => undefined);
  }, [kept, meet]);

  const settle = (whose: "mine" | "theirs") => {
    if (!clash) return;
    const { theirs } = clash;
    base.current = theirs;
    setClash(null);
    // Mine stays one step of undo away.
    if (whose === "theirs") history.getState().edit(theirs.fields as unknown as Partial<D>, `theirs-${theirs.version}`);
    else void flush.current().catch(() => undefined);
  };
  return { flush: () => flush.current(), problem, problemField, saving, clash, settle };
}
