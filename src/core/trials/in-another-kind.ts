/** A question that goes on in another kind: from a field of two settings to a tower of one of them, the other held fixed. */
import type { Verdict } from "../reading/verdict";
import { refuse, Result, succeed } from "../result";
import { SettingKey, settingFor, SettingValues } from "../settings";
import { OptionValues, optionsOf } from "../options/option";
import type { Printer } from "../shelf/printer";
import { trialKindFor, TrialKindKey } from ".";
import { firstRound } from "./first-round";
import { alone } from "./kinds/alone";
import { narrowedAround } from "./next-round";
import type { Run } from "./run";
import type { Trial, TrialInput } from "./trial";

/** A tower that a piece of two settings can go on in. */
export interface Tower {
  kind: TrialKindKey;
  options: OptionValues;
  /** What it asks for, the other held as it was found. */
  setting: SettingKey;
}

/** The kind that looks for a setting by itself on this printer; null where none does. */
function towerFor(setting: SettingKey, printer: Printer): Tower | null {
  const one = alone[setting];
  if (!one) return null;
  const { key, kind, options } = one;
  return kind.setting(printer, optionsOf(kind.options, options, printer)) === setting
    ? { kind: key, options, setting }
    : null;
}

/** Towers that a field of two settings can go on in: of either of them. */
export function towersOf({ setting, along }: Pick<Verdict, "setting" | "along">, printer: Printer): Tower[] {
  if (!along) return [];
  return [setting, along.setting].flatMap((key) => towerFor(key, printer) ?? []);
}

type Fields = Pick<
  Trial,
  | "kind"
  | "name"
  | "printerId"
  | "spoolId"
  | "layerHeightMm"
  | "firstLayerHeightMm"
  | "plan"
  | "fixed"
  | "tool"
  | "options"
>;

/** The new trial: its kind's first round, narrowed around what was found, with everything else held as it was on the piece. */
export function inAnotherKind(
  { spool, kept = {} }: TrialInput,
  { trial, printer }: Pick<Run, "trial" | "printer">,
  verdict: Verdict,
  kind: TrialKindKey,
  sought?: SettingKey,
): Result<Fields> {
  const { value, along, why } = verdict;
  const { label } = trialKindFor(kind);
  const towers = towersOf(verdict, printer).filter((one) => one.kind === kind);
  const tower = sought === undefined ? towers[0] : towers.find((one) => one.setting === sought);
  if (!tower && sought !== undefined && towers.length > 0) {
    return refuse(`${label} does not look for ${settingFor(sought).label.toLowerCase()} here.`, "setting");
  }
  if (!tower || !along) return refuse(`What was found does not go on as ${label.toLowerCase()}.`, "kind");
  if (value === null) return refuse(`There is nothing to go on from yet. ${why}`);
  const { printerId, spoolId, layerHeightMm, firstLayerHeightMm, tool } = trial;
  const { options, setting } = tower;
  const [found, other] =
    setting === along.setting ? [along.value, { [verdict.setting]: value }] : [value, { [along.setting]: along.value }];
  const round = firstRound(kind, { printer, spool, kept, options, layerHeightMm, firstLayerHeightMm });
  const plan = narrowedAround({ kind, options, plan: round.plan }, { printer, spool }, found);
  if (!plan.ok) return plan;
  const fixed: SettingValues = { ...round.fixed, ...trial.fixed, ...other };
  const held = Object.fromEntries(Object.entries(fixed).filter(([key]) => (key as SettingKey) !== setting));
  return succeed({
    ...{ kind, name: trialKindFor(kind).question(spool, options) },
    ...{ printerId, spoolId, layerHeightMm, firstLayerHeightMm, tool },
    plan: plan.value,
    fixed: held,
    options,
  });
}
