"use client";
/** A sheet as it is edited: kept on the server by itself, with undo. */
import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useMemo, useState } from "react";
import type { Sheet } from "@/core/sheets/sheet";
import { fieldVisit } from "../common/field-visit";
import { api } from "../common/api";
import { createHistory, HistoryStore } from "../common/history";
import { keys } from "../common/keys";
import { expectOwn } from "../common/own-changes";
import { useSaving } from "../common/saving";
import { KeptSheet, sheetOf } from "./kept-sheet";

interface Fields {
  sheet: Sheet;
}

const PUT_AFTER_MS = 400;

const sheetIn = (sheet: KeptSheet): Fields => ({ sheet: sheetOf(sheet) });

export function useSheet(loaded: KeptSheet) {
  const { id } = loaded;
  const [history] = useState<HistoryStore<Fields>>(() => createHistory(sheetIn(loaded)));
  const client = useQueryClient();
  const kept = useMemo(() => ({ fields: sheetIn(loaded), version: loaded.revision }), [loaded]);
  const saving = useSaving<Fields, Fields>({
    history,
    kept,
    afterMs: PUT_AFTER_MS,
    fieldsOf: ({ sheet }) => ({ sheet }),
    put: async ({ sheet }, revision, leaving) => {
      const next = await api.put<KeptSheet>(`/sheets/${id}`, { ...sheet, revision }, leaving);
      expectOwn("sheets", id);
      client.setQueryData(keys.sheet(id), next);
      return { fields: sheetIn(next), version: next.revision };
    },
    readCurrent: (current) => ({ fields: sheetIn(current as KeptSheet), version: (current as KeptSheet).revision }),
  });
  const { now, past, future, undo, redo } = history();
  // One and the same from render to render, so that what it is handed to is not drawn again.
  const change = useCallback(
    (next: Partial<Sheet>, gesture = fieldVisit() ?? `change-${performance.now()}`) => {
      const { now: before, edit } = history.getState();
      edit({ sheet: { ...before.sheet, ...next } }, gesture);
    },
    [history],
  );
  return {
    ...saving,
    sheet: now.sheet,
    canUndo: past.length > 0,
    canRedo: future.length > 0,
    undo,
    redo,
    change,
  };
}
