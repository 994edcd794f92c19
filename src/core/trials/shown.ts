/** Which settings of a trial are shown where. */
import { variedKeys } from "../heightplan/plan";
import { SettingKey } from "../settings";
import type { Printer } from "../shelf/printer";
import { trialKindFor } from ".";
import { optionsOf } from "../options/option";
import type { Trial } from "./trial";

type Shown = Pick<Trial, "kind" | "plan" | "options">;

/** The setting the trial is about: the kind's own if the bands vary it, else the first they vary, else what stands side by side. */
export function primaryKey({ kind, plan, options }: Shown, printer: Printer | null): SettingKey {
  const varied = variedKeys(plan.bands);
  const { setting, options: choices } = trialKindFor(kind);
  const own = printer ? setting(printer, optionsOf(choices, options, printer)) : undefined;
  if (own && varied.includes(own)) return own;
  return varied[0] ?? plan.sideBySide?.setting ?? own ?? "nozzleTemperature";
}

/** The settings the bands vary, the one the trial is about first. */
export function variedOf(trial: Shown, printer: Printer | null): SettingKey[] {
  const primary = primaryKey(trial, printer);
  return [primary, ...variedKeys(trial.plan.bands).filter((key) => key !== primary)];
}
