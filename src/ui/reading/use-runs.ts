"use client";
/** The pieces of a trial, what this device says of one of them, and what all readings say together. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useMemo, useState } from "react";
import { beadWidthFor } from "@/core/printing/process";
import type { CriterionKey } from "@/core/reading";
import type { Mark } from "@/core/reading/criterion";
import { layOver, Said } from "@/core/reading/lay-over";
import type { Weights } from "@/core/reading/score";
import { verdict, Verdict } from "@/core/reading/verdict";
import { trialKindFor } from "@/core/trials";
import { api } from "../common/api";
import { keys } from "../common/keys";
import { useTell } from "../common/talk";
import type { SentRun } from "./run-data";

export const useRuns = (trialId: number) =>
  useQuery({ queryKey: keys.runs(trialId), queryFn: () => api.get<SentRun[]>(`/trials/${trialId}/runs`) });

/** Who reads here: the bench, or a device that came over the network. */
export function readerName(): string {
  return ["localhost", "127.0.0.1", "[::1]"].includes(window.location.hostname) ? "bench" : "phone";
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
        await api.put(`/runs/${run.id}/readings/${reader}`, given);
      } catch (error) {
        tell.error(error);
        await client.invalidateQueries({ queryKey: keys.runs(trialId) });
      }
    },
    [client, reader, run, tell, trialId],
  );
  return {
    reader,
    markOf,
    lengthsOf,
    mark: (band: number, criterion: CriterionKey, mark: Mark | null) => give({ marks: [{ band, criterion, mark }] }),
    measure: (band: number, what: string, valuesMm: number[]) => give({ measures: [{ band, what, valuesMm }] }),
  };
}

/** The run with what was just given, as the server will have it. */
function withGiven(run: SentRun, reader: string, given: Partial<Said>): SentRun {
  const before = run.readings.find((one) => one.reader === reader) ?? {
    ...{ reader, marks: [], measures: [], note: "" },
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
      return JSON.parse(localStorage.getItem(WEIGHTS_KEY) ?? "{}") as Weights;
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

/** The verdict on a run, anew with every mark and every weight. */
export function useVerdict(run: SentRun | null, weights: Weights): Verdict | null {
  return useMemo(() => {
    if (!run) return null;
    const guide = trialKindFor(run.trial.kind).reads;
    return verdict({
      guide,
      setting: run.setting,
      // JSON has no NaN: a band without a value of its own came as null.
      bands: run.bands.filter(({ value }) => typeof value === "number" && !Number.isNaN(value)),
      readers: run.readings,
      weights,
      wantedMm: guide.measure ? beadWidthFor(run.printer) : undefined,
    });
  }, [run, weights]);
}
