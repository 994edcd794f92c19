/** A question that goes on in another kind: from a field of two settings to a tower of one of them, the other held fixed. */
import type { Verdict } from "../reading/verdict";
import { refuse, Result, succeed } from "../result";
import type { SettingKey, SettingValues } from "../settings";
import { OptionValues, optionsOf } from "../options/option";
import type { Printer } from "../shelf/printer";
import { roadKindKeys, trialKindFor, TrialKindKey } from ".";
import { firstRound } from "./first-round";
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

/** The kind that looks for a setting by itself, with the options that make it do so; null where none does. */
function towerFor(setting: SettingKey, printer: Printer): Tower | null {
  for (const kind of roadKindKeys) {
    const { options, needsOwnPiece, tracksMm, setting: of } = trialKindFor(kind);
    if (needsOwnPiece || tracksMm) continue;
    const choices = options.flatMap((one) =>
      one.kind === "choice" ? one.choices.map(({ value }) => [one.key, value]) : [],
    );
    for (const given of [{}, ...choices.map(([key, value]) => ({ [key]: value }))]) {
      if (of(printer, optionsOf(options, given, printer)) === setting) return { kind, options: given, setting };
    }
  }
  return null;
}

/** Towers that a field of two settings can go on in: of either of them. */
export function towersOf({ setting, along }: Pick<Verdict, "setting" | "along">, printer: Printer): Tower[] {
  if (!along) return [];
  const towers = [setting, along.setting].flatMap((key) => towerFor(key, printer) ?? []);
  return towers.filter(({ setting: own }, i) => towers.findIndex((other) => other.setting === own) === i);
}

type Fields = Pick<
  Trial,
  "kind" | "printerId" | "spoolId" | "layerHeightMm" | "firstLayerHeightMm" | "plan" | "fixed" | "tool" | "options"
>;

/** The new trial: its kind's first round, narrowed around what was found, with everything else held as it was on the piece. */
export function inAnotherKind(
  { spool, kept = {} }: TrialInput,
  { trial, printer }: Pick<Run, "trial" | "printer">,
  verdict: Verdict,
  kind: TrialKindKey,
  sought: SettingKey = verdict.setting,
): Result<Fields> {
  const { value, along, why } = verdict;
  const { label } = trialKindFor(kind);
  const towers = towersOf(verdict, printer).filter((one) => one.kind === kind);
  const tower = towers.find((one) => one.setting === sought) ?? towers[0];
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
    ...{ kind, printerId, spoolId, layerHeightMm, firstLayerHeightMm, tool },
    plan: plan.value,
    fixed: held,
    options,
  });
}
