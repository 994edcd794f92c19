"use client";
/** The edits laid over an opened file: with undo, kept on the server, and the server's answer to them. */
import { hashKey, useQueryClient } from "@tanstack/react-query";
import { useCallback, useMemo, useState } from "react";
import type { Edit, LayerSpan } from "@/core/edits";
import type { Finding } from "@/core/findings/finding";
import { api } from "../common/api";
import { createHistory, HistoryStore } from "../common/history";
import { fieldVisit } from "../common/field-visit";
import { keys } from "../common/keys";
import { expectOwn } from "../common/own-changes";
import { useSaving } from "../common/saving";

export interface EditsAnswer {
  stack: Edit[];
  version: number;
  edits: { kind: string; changedLines: number; places: LayerSpan[] }[];
  findings: Finding[];
  inserted: { line: number; layer: number; fromMm: number; text: string }[];
  removed: { line: number }[];
}

/** A save follows the last edit by so long. */
const PUT_AFTER_MS = 200;

interface Stacked {
  stack: Edit[];
}

const fieldsOf = ({ stack }: Stacked): Stacked => ({ stack });

/** `loaded` is what the server has, as far as this page knows. */
export function useFileEditor(id: number, loaded: EditsAnswer) {
  const [history] = useState<HistoryStore<Stacked>>(() => createHistory(fieldsOf(loaded)));
  const [answered, setAnswered] = useState(loaded);
  const answer = loaded.version > answered.version ? loaded : answered;
  const client = useQueryClient();
  const kept = useMemo(() => ({ fields: fieldsOf(loaded), version: loaded.version }), [loaded]);
  const { problem, problemField, clash, settle } = useSaving<Stacked, Stacked>({
    history,
    kept,
    afterMs: PUT_AFTER_MS,
    fieldsOf,
    put: async ({ stack }, version, leaving) => {
      const next = await api.put<EditsAnswer>(`/files/${id}/edits`, { version, edits: stack }, leaving);
      expectOwn("files", id);
      client.setQueryData(keys.fileEdits(id), next);
      setAnswered(next);
      return { fields: fieldsOf(next), version: next.version };
    },
    readCurrent: (current) => {
      const { edits, version } = current as { edits: Edit[]; version: number };
      // What it makes of them is not in the refusal.
      void client.invalidateQueries({ queryKey: keys.fileEdits(id) });
      return { fields: { stack: edits }, version };
    },
  });
  const { now, past, future, edit, undo, redo } = history();
  const { stack } = now;
  /** `gesture`: changes of one drag, or of one visit of a field, are one step back. */
  const change = useCallback(
    (next: Edit[], gesture = fieldVisit() ?? `change-${performance.now()}`) => edit({ stack: next }, gesture),
    [edit],
  );
  // By value, for words come back in the order of the schema.
  const waiting = problem === null && hashKey([stack]) !== hashKey([answer.stack]);
  return {
    stack,
    change,
    undo,
    redo,
    canUndo: past.length > 0,
    canRedo: future.length > 0,
    answer,
    problem,
    problemField,
    waiting,
    clash,
    settle,
  };
}
