/** A trial as lists show it: what it asks of whom, and its values at a glance; the plan itself stays where it is. */
import { settingFor, SettingKey, SettingValues } from "../settings";
import type { Printer } from "../shelf/printer";
import { trialKindFor } from ".";
import { primaryKey } from "./shown";
import type { Trial } from "./trial";

export interface BriefTrial extends Pick<Trial, "id" | "kind" | "name" | "printerId" | "spoolId" | "updatedAt"> {
  version: number;
  /** `Nozzle temperature` */
  kindLabel: string;
  /** What the trial is about, its unit and decimals. */
  setting: SettingKey;
  unit: string;
  decimals: number;
  baseHeightMm: number;
  /** Height and value of its bands from the bed up; null where a band sets something else. */
  bands: [heightMm: number, value: number | null][];
  /** How many values stand side by side. */
  besides: number;
  /** How far the question has come, and the value that was kept of it. */
  state: TrialState;
  kept: number | null;
}

export type TrialState = "planned" | "printed" | "read" | "kept";

/** What came of a trial so far. */
export interface Progress {
  runs: number;
  readings: number;
  /** The newest value of each setting that was kept of it. */
  kept: SettingValues;
}

export function stateOf({ runs, readings, kept }: Progress): TrialState {
  if (Object.keys(kept).length > 0) return "kept";
  if (readings > 0) return "read";
  return runs > 0 ? "printed" : "planned";
}

export function briefOf(
  trial: Trial & { version: number },
  printer: Printer | null,
  progress: Progress = { runs: 0, readings: 0, kept: {} },
): BriefTrial {
  const { id, kind, name, printerId, spoolId, updatedAt, version, plan } = trial;
  const setting = primaryKey(trial, printer);
  return {
    id,
    kind,
    name,
    printerId,
    spoolId,
    updatedAt,
    version,
    kindLabel: trialKindFor(kind).label,
    setting,
    unit: settingFor(setting).unit,
    decimals: settingFor(setting).decimals,
    baseHeightMm: plan.baseHeightMm,
    bands: plan.bands.map(({ heightMm, settings }) => [heightMm, settings[setting] ?? null]),
    besides: plan.sideBySide?.values.length ?? 0,
    state: stateOf(progress),
    kept: progress.kept[setting] ?? null,
  };
}
