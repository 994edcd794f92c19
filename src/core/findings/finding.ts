/** Something a check noticed: how bad, where, why, and how to mend it. */
import type { HeightPlan } from "../heightplan/plan";
import type { OptionValues } from "../options/option";
import type { SettingKey, SettingValues } from "../settings";

/** `stop`: the program is not handed out. `warn`: look at it. `note`: good to know. */
export type Severity = "stop" | "warn" | "note";

/** The parts of a trial that a mend may change. */
export interface TrialParts {
  plan: HeightPlan;
  fixed: SettingValues;
  options: OptionValues;
}

/** Takes lines out of an opened file; see `edits/lift-out`. */
export interface LiftOutEdit {
  kind: "lift-out";
  /** `cuchara`: lines an earlier plan put in. `foreign`: changes inside the print that come from elsewhere. */
  what: "cuchara" | "foreign";
  /** Which settings' changes; temperatures if left out. Only for `foreign`. */
  settings?: SettingKey[];
  /** Changes of this tool alone, where every tool has a value of its own. Only for `foreign`. */
  tool?: number;
}

/** What is lifted out where no settings are named. */
export const usualLiftOut = ["nozzleTemperature", "bedTemperature"] as const satisfies readonly SettingKey[];

/** What pressing the mend's button does. */
export interface Mend {
  label: string;
  /** Replaces these parts of the trial. */
  trial?: Partial<TrialParts>;
  /** Adds this edit to an opened file. */
  edit?: LiftOutEdit;
  /** Changes a sheet: in what order it is laid, or how it goes past what is kept out. */
  sheet?: "layer-by-layer" | "go-round";
  /** Opens the place where it can be put right. */
  open?: "printer" | "spool";
}

export interface Finding {
  /** Key of the check. */
  check: string;
  severity: Severity;
  /** `band 3`, `layer 187 at 37.4 mm`, `line 1204`. */
  where: string;
  message: string;
  mend?: Mend;
  /** Other ways to mend it. */
  others?: Mend[];
}

const weight = { stop: 0, warn: 1, note: 2 };

/** Worst first; equally bad ones as they were found. */
export function worstFirst(findings: readonly Finding[]): Finding[] {
  return [...findings].sort((a, b) => weight[a.severity] - weight[b.severity]);
}
