"use client";
/** What was kept for a printer that its firmware also holds: values of trials, and results of measured tunes. */
import { useQuery } from "@tanstack/react-query";
import { tuneFor, TuneKey } from "@/core/measure";
import type { TuneResult } from "@/core/measure/result";
import type { SettingKey } from "@/core/settings";
import { api } from "../common/api";
import { useBench, useKept, useTrials } from "../common/queries";
import { keys } from "../common/keys";

/** Firmware values that say the same as a setting. */
const sameAs: Partial<Record<SettingKey, string[]>> = {
  acceleration: ["printAcceleration", "sharedAcceleration"],
  jerk: ["jerkX", "jerkY", "jerkPerMinuteX", "jerkPerMinuteY", "squareCornerSpeed"],
  junctionDeviation: ["junctionDeviation"],
  retractionLength: ["retractionLength", "namedRetractionLength"],
  retractionSpeed: ["retractionSpeed", "namedRetractionSpeed"],
  pressureAdvance: ["pressureAdvance", "pressureAdvancePerTool", "namedPressureAdvance"],
};

export interface Measurement {
  id: number;
  tune: TuneKey;
  measuredAt: string;
  result: TuneResult;
}

export const useMeasurements = (printerId: number) =>
  useQuery({
    queryKey: keys.measurementsOf(printerId),
    enabled: printerId > 0,
    queryFn: () => api.get<Measurement[]>(`/measure?printerId=${printerId}`),
  });

export interface KeptFigure {
  value: number;
  /** Where it came from. */
  why: string;
}

/** Kept figure by the id of the firmware value. */
export function useKeptFirmware(printerId: number): Map<string, KeptFigure> {
  const spoolId = useBench().data?.spoolId ?? 0;
  const kept = useKept(printerId, spoolId).data ?? [];
  const measured = useMeasurements(printerId).data ?? [];
  const trials = useTrials().data ?? [];
  const found = new Map<string, KeptFigure>();
  // Newest first in both lists: the first one counts.
  for (const { setting, value, trialId } of kept) {
    const trial = trials.find(({ id }) => id === trialId)?.name;
    const why = trial ? `kept from “${trial}”` : "kept by hand";
    for (const id of sameAs[setting] ?? []) if (!found.has(id)) found.set(id, { value, why });
  }
  const seen = new Set<string>();
  for (const { tune, result } of measured) {
    for (const [id, value] of Object.entries(result.firmware)) {
      if (seen.has(id)) continue;
      seen.add(id);
      found.set(id, { value, why: `${tuneFor(tune).title}, measured` });
    }
  }
  return found;
}
