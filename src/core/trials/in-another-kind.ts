/** A question that goes on in another kind: from a field of two settings to a tower of one of them, the other held fixed. */
import type { Verdict } from "../reading/verdict";
import { refuse, Result, succeed } from "../result";
import type { SettingKey, SettingValues } from "../settings";
import { trialKindFor, TrialKindKey } from ".";
import { firstRound } from "./first-round";
import { narrowedAround } from "./next-round";
import type { Run } from "./run";
import type { Trial, TrialInput } from "./trial";

/** Kinds that a field can go on in. */
export const towersOfField: readonly TrialKindKey[] = ["retraction"];

type Fields = Pick<
  Trial,
  "kind" | "printerId" | "spoolId" | "layerHeightMm" | "firstLayerHeightMm" | "plan" | "fixed" | "tool" | "options"
>;

/** The new trial: its kind's first round, narrowed around what was found, with everything else held as it was on the piece. */
export function inAnotherKind(
  { spool, kept = {} }: TrialInput,
  { trial, printer }: Pick<Run, "trial" | "printer">,
  { value, along, setting, why }: Verdict,
  kind: TrialKindKey,
): Result<Fields> {
  const { label } = trialKindFor(kind);
  if (!towersOfField.includes(kind) || !along)
    return refuse(`What was found does not go on as ${label.toLowerCase()}.`, "kind");
  if (value === null) return refuse(`There is nothing to go on from yet. ${why}`);
  const { printerId, spoolId, layerHeightMm, firstLayerHeightMm, tool } = trial;
  const round = firstRound(kind, { printer, spool, kept, options: {}, layerHeightMm, firstLayerHeightMm });
  const plan = narrowedAround({ kind, options: {}, plan: round.plan }, { printer, spool }, value);
  if (!plan.ok) return plan;
  const fixed: SettingValues = { ...round.fixed, ...trial.fixed, [along.setting]: along.value };
  const held = Object.fromEntries(Object.entries(fixed).filter(([key]) => (key as SettingKey) !== setting));
  return succeed({
    ...{ kind, printerId, spoolId, layerHeightMm, firstLayerHeightMm, tool },
    plan: plan.value,
    fixed: held,
    options: {},
  });
}
