"use client";
/** The trial being edited: its history for undo, its way to the server, and what the worker makes of it. */
import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import type { HeightPlan } from "@/core/heightplan/plan";
import type { Trial } from "@/core/trials/trial";
import { TrialClient } from "@/workers/trial-client";
import { fullView, PlainView, TrialView } from "@/core/trials/view";
import { api, SavedPrinter, SavedSpool, StoredTrial } from "../common/api";
import { createHistory, HistoryStore } from "../common/history";
import { keys } from "../common/keys";
import { expectOwn } from "../common/own-changes";
import { useCeiling, useExpected, useKept } from "../common/queries";
import { Kept, useSaving } from "../common/saving";

/** A save follows the last edit by so long. */
const SAVE_AFTER_MS = 350;

/** What of a trial is edited and stored. */
export type TrialFields = Omit<Trial, "id" | "kind" | "createdAt" | "updatedAt" | "round" | "from" | "sheet">;
export type TrialEdit = Partial<TrialFields>;

/** What is stored of a trial; what the server adds to it is left out. */
const fieldsOf = (trial: Trial): TrialFields => {
  const { name, printerId, spoolId, layerHeightMm, firstLayerHeightMm, plan, fixed, tool, options } = trial;
  return { name, printerId, spoolId, layerHeightMm, firstLayerHeightMm, plan, fixed, tool, options };
};

const keptOf = (trial: StoredTrial): Kept<TrialFields> => ({ fields: fieldsOf(trial), version: trial.version });

/** What a field is called on screen, where two people have changed it. */
const fieldNames: Record<keyof TrialFields, string> = {
  name: "its name",
  printerId: "its printer",
  spoolId: "its spool",
  layerHeightMm: "the layer height",
  firstLayerHeightMm: "the first layer",
  plan: "the plan",
  fixed: "what is held fixed",
  tool: "the tool",
  options: "its choices",
};
export const sayFields = (fields: (keyof TrialFields)[]): string[] => fields.map((field) => fieldNames[field]);

/** The trial being edited, kept on the server. `loaded` is what the server has, as far as this page knows. */
export function useTrialEditor(loaded: StoredTrial) {
  const [history] = useState<HistoryStore<StoredTrial>>(() => createHistory(loaded));
  const client = useQueryClient();
  const kept = useMemo(() => keptOf(loaded), [loaded]);
  const saving = useSaving<StoredTrial, TrialFields>({
    history,
    kept,
    afterMs: SAVE_AFTER_MS,
    fieldsOf,
    put: async (changes, version, leaving) => {
      const stored = await api.put<StoredTrial>(`/trials/${loaded.id}`, { ...changes, version }, leaving);
      expectOwn("trials", loaded.id);
      // The file says when the trial was changed last.
      history.getState().takeOver({ updatedAt: stored.updatedAt });
      return keptOf(stored);
    },
    readCurrent: (current) => keptOf(current as StoredTrial),
    onSaved: () => void client.invalidateQueries({ queryKey: keys.trials }),
  });
  const { now: trial, past, future, edit, undo, redo } = history();
  const editPlan = useCallback(
    (change: (plan: HeightPlan) => HeightPlan, gesture?: string) =>
      history.getState().edit({ plan: change(history.getState().now.plan) }, gesture),
    [history],
  );
  return { trial, canUndo: past.length > 0, canRedo: future.length > 0, edit, editPlan, undo, redo, ...saving };
}

/** A page that has its view lets its worker begin when nothing else is to do, and no later than after so long. */
const IDLE_WITHIN_MS = 1500;

function whenIdle(act: () => void): () => void {
  if (typeof requestIdleCallback !== "function") {
    const timer = setTimeout(act, IDLE_WITHIN_MS);
    return () => clearTimeout(timer);
  }
  const handle = requestIdleCallback(act, { timeout: IDLE_WITHIN_MS });
  return () => cancelIdleCallback(handle);
}

/** What the worker makes of the trial as it stands; null until the first answer. */
export function useTrialView(trial: Trial, version: number, printer: SavedPrinter | null, spool: SavedSpool | null) {
  // The page may have come with its view: the worker takes over when the hand rests, or with the first edit.
  const queries = useQueryClient();
  const [given] = useState(() => queries.getQueryData<PlainView>(keys.trialView(trial.id, version)));
  const [view, setView] = useState<TrialView | null>(() => (given ? fullView(given) : null));
  const [failure, setFailure] = useState<string | null>(null);
  const [client, setClient] = useState<TrialClient | null>(null);
  const keptValues = useKept(trial.printerId, trial.spoolId).data;
  const ceiling = useCeiling(trial.printerId).data;
  const expected = useExpected(trial.printerId, trial.spoolId).data;
  const kept = Object.fromEntries((keptValues ?? []).map(({ setting, value }) => [setting, value]));
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
  const key = JSON.stringify([fieldsOf(trial), trial.updatedAt.slice(0, 10), printer, spool, kept, expected, ceiling]);
  const givenKey = useRef(given ? key : null);
  useEffect(() => {
    if (!client || !printer || !spool) return;
    const build = () => client.build({ trial, printer, spool, kept, expected, ceiling });
    const isGiven = givenKey.current === key;
    givenKey.current = null;
    if (isGiven) return whenIdle(build);
    build();
    // `key` stands for trial, printer, spool, what is kept for them and what the firmware allows.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [client, key]);
  return { view, failure, client };
}
