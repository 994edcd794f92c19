"use client";
/** A written program as it is edited: kept on the server by itself, a moment after each change. */
import { useQueryClient } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { api } from "../common/api";
import { createHistory, HistoryStore } from "../common/history";
import { keys } from "../common/keys";
import { expectOwn } from "../common/own-changes";
import { useSaving } from "../common/saving";

export interface Written {
  id: number;
  name: string;
  text: string;
  version: number;
  /** How many layers it lays; programs need not lay any. */
  layers: number;
}

interface Fields {
  name: string;
  text: string;
}

const PUT_AFTER_MS = 400;
const fieldsOf = ({ name, text }: Fields): Fields => ({ name, text });

export function useProgram(loaded: Written) {
  const { id } = loaded;
  const [history] = useState<HistoryStore<Fields>>(() => createHistory(fieldsOf(loaded)));
  const [layers, setLayers] = useState(loaded.layers);
  const client = useQueryClient();
  const kept = useMemo(() => ({ fields: fieldsOf(loaded), version: loaded.version }), [loaded]);
  const saving = useSaving<Fields, Fields>({
    history,
    kept,
    afterMs: PUT_AFTER_MS,
    fieldsOf,
    put: async (changes, version, leaving) => {
      const next = await api.put<Written>(`/programs/${id}`, { ...changes, version }, leaving);
      expectOwn("files", id);
      client.setQueryData(keys.writtenProgram(id), next);
      setLayers(next.layers);
      return { fields: fieldsOf(next), version: next.version };
    },
    readCurrent: (current) => {
      const { name, text, version } = current as Written;
      return { fields: { name, text }, version };
    },
  });
  const { now, edit } = history();
  return {
    ...saving,
    now,
    layers,
    edit: (change: Partial<Fields>) => edit({ ...now, ...change }, "text" in change ? "text" : "name"),
  };
}
