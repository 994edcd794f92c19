"use client";
/** The pieces of a trial, what this device says of one of them, and what all readings say together. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useRef, useState } from "react";
import type { CriterionKey } from "@/core/reading";
import type { Mark } from "@/core/reading/criterion";
import { layOver, Said } from "@/core/reading/lay-over";
import type { Weights } from "@/core/reading/score";
import type { Verdict } from "@/core/reading/verdict";
import { VerdictClient } from "@/workers/verdict-client";
import { api, ApiError } from "../common/api";
import { keys } from "../common/keys";
import { useTell } from "../common/talk";
import type { SentRun } from "./run-data";

export const useRuns = (trialId: number) =>
  useQuery({ queryKey: keys.runs(trialId), queryFn: () => api.get<SentRun[]>(`/trials/${trialId}/runs`) });

const READER_KEY = "cuchara-reader";

/** Who reads here: the bench, or a device of the network under a name of its own, so that two phones are two readers. */
export function readerName(): string {
  if (["localhost", "127.0.0.1", "[::1]"].includes(window.location.hostname)) return "bench";
  const known = localStorage.getItem(READER_KEY);
  if (known) return known;
  const made = `phone ${crypto.getRandomValues(new Uint16Array(1))[0].toString(36)}`;
  localStorage.setItem(READER_KEY, made);
  return made;
}

/** Marks and lengths of this device's reader; each is stored as it is given, and shown at once. */
export function useReading(trialId: number, run: SentRun | null) {
  const client = useQueryClient();
  const tell = useTell();
  const reader = typeof window === "undefined" ? "bench" : readerName();
  const own = run?.readings.find((one) => one.reader === reader);
  const markOf = (band: number, criterion: CriterionKey): Mark | null | undefined =>
    own?.marks.find((mark) => mark.band === band && mark.criterion === criterion)?.mark;
  const lengthsOf = (band: number, what: string): number[] =>
    own?.measures.find((one) => one.band === band && one.what === what)?.valuesMm ?? [];
  const give = useCallback(
    async (given: Partial<Said>) => {
      if (!run) return;
      client.setQueryData<SentRun[]>(keys.runs(trialId), (all) =>
        all?.map((one) => (one.id === run.id ? withGiven(one, reader, given) : one)),
      );
      try {
        await api.put(`/runs/${run.id}/readings/${encodeURIComponent(reader)}`, given);
      } catch (error) {
        tell.error(error);
        await client.invalidateQueries({ queryKey: keys.runs(trialId) });
      }
    },
    [client, reader, run, tell, trialId],
  );
  const readForMe = useCallback(async () => {
    if (!run) return;
    try {
      await api.post(`/runs/${run.id}/piece/read/${encodeURIComponent(reader)}`);
      await client.invalidateQueries({ queryKey: keys.runs(trialId) });
      await client.invalidateQueries({ queryKey: keys.trials });
    } catch (error) {
      tell.error(error);
    }
  }, [client, reader, run, tell, trialId]);
  return {
    reader,
    readForMe,
    markOf,
    lengthsOf,
    mark: (band: number, criterion: CriterionKey, mark: Mark | null) => give({ marks: [{ band, criterion, mark }] }),
    markAll: (bands: number[], criterion: CriterionKey, mark: Mark | null) =>
      give({ marks: bands.map((band) => ({ band, criterion, mark })) }),
    measureAll: (what: string, all: { band: number; valuesMm: number[] }[]) =>
      give({ measures: all.map((one) => ({ ...one, what })) }),
    measure: (band: number, what: string, valuesMm: number[]) => give({ measures: [{ band, what, valuesMm }] }),
  };
}

/** The run with what was just given, as the server will have it. */
function withGiven(run: SentRun, reader: string, given: Partial<Said>): SentRun {
  const before = run.readings.find((one) => one.reader === reader) ?? {
    reader,
    marks: [],
    measures: [],
    note: "",
    readAt: new Date().toISOString(),
  };
  const reading = { ...before, ...layOver(before, given) };
  return { ...run, readings: [...run.readings.filter((one) => one.reader !== reader), reading] };
}

const WEIGHTS_KEY = "cuchara-weights";

/** What counts for this person; kept in the browser. */
export function useWeights() {
  const [weights, setWeights] = useState<Weights>(() => {
    try {
      const kept = JSON.parse(localStorage.getItem(WEIGHTS_KEY) ?? "{}") as Record<string, unknown>;
      return Object.fromEntries(Object.entries(kept).filter(([, weight]) => typeof weight === "number"));
    } catch {
      return {};
    }
  });
  return {
    weights,
    setWeight(key: "looks" | "strength" | "speed", value: number) {
      const next = { ...weights, [key]: value };
      setWeights(next);
      localStorage.setItem(WEIGHTS_KEY, JSON.stringify(next));
    },
  };
}

/** The verdict on a run, anew with every mark and every weight; worked out beside the page, so that a mark never waits for it. */
export function useVerdict(run: SentRun | null, weights: Weights): Verdict | null {
  const tell = useTell();
  const client = useRef<VerdictClient | null>(null);
  const [found, setFound] = useState<{ runId: number; verdict: Verdict } | null>(null);
  useEffect(() => {
    client.current = new VerdictClient((answer, input) => {
      if (answer.kind === "verdict") setFound({ runId: input.run.id, verdict: answer.verdict });
      else tell.error(new ApiError(500, answer.message));
    });
    return () => client.current?.close();
  }, [tell]);
  useEffect(() => {
    if (!run) return;
    const { id, trial, printer, bands: units, readings } = run;
    const readers = readings.map(({ marks, measures }) => ({ marks, measures }));
    client.current?.request({ run: { id, trial, printer }, units, readers, weights });
  }, [run, weights]);
  return found !== null && found.runId === run?.id ? found.verdict : null;
}
