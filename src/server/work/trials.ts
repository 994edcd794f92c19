/** What is done with trials, whoever asks for it. */
import type { Ceiling } from "@/core/checks/check";
import { accelerationCeiling } from "@/core/firmware/values/ceiling";
import { layerTops } from "@/core/heightplan/layer-grid";
import { HeightPlan, MOST_PAIRS, planHeightMm, resolveBands, variedKeys } from "@/core/heightplan/plan";
import { SettingKey, SettingValues } from "@/core/settings";
import { checkWhole } from "@/core/settings/whole";
import { usualLayerMm } from "@/core/printing/process";
import { trialKindFor } from "@/core/trials";
import { forPrinter, forSpool } from "@/core/trials/copy";
import { CopyTarget } from "@/core/trials/copy-schema";
import { firstRound } from "@/core/trials/first-round";
import { heightsOfPiece, planForSheet } from "@/core/trials/plan-on-piece";
import { bandValues, takesSheet } from "@/core/trials/sheet-piece";
import { optionsOf } from "@/core/options/option";
import { optionsOfKind } from "@/core/trials/options-of-kind";
import type { RoundRequest } from "@/core/trials/kind";
import { NewTrial, Trial, TrialInput } from "@/core/trials/trial";
import type { Printer } from "@/core/shelf/printer";
import type { Spool } from "@/core/shelf/spool";
import { printers } from "../db/printers";
import { spools } from "../db/spools";
import { snapshots } from "../db/firmware-values";
import { carriedSettings, keptSettings } from "../db/kept";
import { TrialFields } from "../db/trials";
import { Refused } from "../refused";
import { runTask } from "../tasks/pool";
import { expectedFor, rangesFor } from "./expected";

/** A trial with its bands on whole layers. */
export function withBands<T extends Trial>(trial: T) {
  const tops = layerTops(planHeightMm(trial.plan), trial.firstLayerHeightMm, trial.layerHeightMm);
  const bands = resolveBands(trial.plan, tops);
  return { ...trial, layerCount: tops.length, bands };
}

/** Refuses ids that are not on the shelf. */
export function checkPair(printerId: number, spoolId: number): void {
  if (!printers.get(printerId)) {
    throw new Refused("invalid", `There is no printer ${printerId} on the shelf. Choose another one.`, {
      field: "printerId",
    });
  }
  if (!spools.get(spoolId)) {
    throw new Refused("invalid", `There is no spool ${spoolId} on the shelf. Choose another one.`, {
      field: "spoolId",
    });
  }
}

/** What a first round starts from: printer and spool, what is kept for them, and what of it was only taken over. */
export interface RoundBasis {
  printer: Printer;
  spool: Spool;
  kept: SettingValues;
  carried: SettingValues;
  /** What earlier spools lead one to expect; nothing where the whole range is asked. */
  expected: NonNullable<RoundRequest["expected"]>;
}

/** The basis of a pair of the shelf; without what earlier spools say where the whole range is to be asked. */
export function basisOf(
  { printerId, spoolId }: Pick<NewTrial, "printerId" | "spoolId">,
  asksWhole = false,
): RoundBasis {
  return {
    printer: printers.get(printerId)!,
    spool: spools.get(spoolId)!,
    kept: keptSettings(printerId, spoolId),
    carried: carriedSettings(printerId, spoolId),
    expected: asksWhole ? {} : expectedFor(printerId, spoolId),
  };
}

/** What a kind's first round is made from. */
function roundFor({ kind, options }: NewTrial, { printer, spool, kept, carried, expected }: RoundBasis) {
  const usual = { layerHeightMm: usualLayerMm(printer), firstLayerHeightMm: usualLayerMm(printer) };
  const on = (heights: typeof usual) =>
    firstRound(kind, { printer, spool, kept, carried, expected, options, ...heights });
  return { printer, spool, usual, on };
}

/**
 * A new trial as it is stored: what is not said follows from the kind's first round for printer, spool and kept values.
 *
 * @param tops heights of a sheet that is its piece, where the plan is to follow from them
 * @param basis what it starts from, where that is not on the shelf yet
 */
export function firstTrial(
  wanted: NewTrial,
  tops: number[] | null = null,
  basis: RoundBasis = basisOf(wanted),
): TrialFields {
  const kind = trialKindFor(wanted.kind);
  const options = optionsOfKind(wanted.kind, wanted.options);
  if (!options.ok) throw new Refused("invalid", options.message, { field: options.field });
  const { printer, spool, usual, on } = roundFor(wanted, basis);
  if (wanted.tool >= printer.tools) {
    throw new Refused("invalid", `${printer.name} has no tool ${wanted.tool}: its tools are counted from 0.`, {
      field: "tool",
    });
  }
  const own = tops ? heightsOfPiece(tops) : usual;
  const { layerHeightMm = own.layerHeightMm, firstLayerHeightMm = own.firstLayerHeightMm } = wanted;
  const { plan: round, fixed } = on({ layerHeightMm, firstLayerHeightMm });
  const setting = kind.setting(printer, optionsOf(kind.options, wanted.options, printer));
  const plan = wanted.sheet && tops ? planForSheet(wanted.sheet, round, setting, tops) : round;
  return {
    ...wanted,
    layerHeightMm,
    firstLayerHeightMm,
    name: wanted.name || kind.question(spool, wanted.options),
    // A plan that says nothing of what stands side by side takes the kind's usual values.
    plan: wanted.plan ? { ...(plan.sideBySide ? { sideBySide: plan.sideBySide } : {}), ...wanted.plan } : plan,
    // A plan of one's own may set what the first round holds fixed.
    fixed: wanted.fixed ?? withoutVaried(fixed, wanted.plan),
  };
}

/** Refuses values that the printer would be told rounded, where a plan or fixed values name them. */
export function refuseFractions({ plan, fixed }: { plan?: HeightPlan; fixed?: SettingValues }): void {
  const named: [field: string, values: SettingValues][] = [
    ...(plan?.bands ?? []).map(({ settings }, i): [string, SettingValues] => [`plan.bands.${i}.settings`, settings]),
    ...(plan?.sideBySide?.values ?? []).map((value, i): [string, SettingValues] => [
      `plan.sideBySide.values.${i}`,
      { [plan!.sideBySide!.setting]: value },
    ]),
    ["fixed", fixed ?? {}],
  ];
  for (const [field, values] of named) {
    const checked = checkWhole(values);
    if (!checked.ok) throw new Refused("invalid", checked.message, { field: `${field}.${checked.field}` });
  }
}

/** Refuses more pairs of values than anybody prints and reads: what is believed of them would take more room than there is. */
export function refusePairs(plan: HeightPlan | undefined): void {
  const pairs = (plan?.bands.length ?? 0) * (plan?.sideBySide?.values.length ?? 0);
  if (pairs <= MOST_PAIRS) return;
  throw new Refused("invalid", `At most ${MOST_PAIRS} pairs of values fit in one print: these are ${pairs}.`, {
    field: "plan.sideBySide.values",
  });
}

/** The heights of the sheet that is to be a trial's piece, null for none; refused where it can be none, or the kind needs its own. */
export async function topsOfSheet(wanted: NewTrial, signal: AbortSignal): Promise<number[] | null> {
  const { kind, sheet, options, plan } = wanted;
  if (!sheet) return null;
  if (!takesSheet(kind)) {
    throw new Refused(
      "invalid",
      `${trialKindFor(kind).label} needs its own piece: its values are not told apart by height alone.`,
      { field: "kind" },
    );
  }
  const { printer, spool, usual, on } = roundFor(wanted, basisOf(wanted));
  const round = on(usual);
  const values = bandValues({ kind, options, fixed: round.fixed, plan: plan ?? round.plan }, printer);
  const tops = await runTask("sheetHeights", { sheet, printer, spool, values }, { signal });
  if (!tops.ok) throw new Refused("invalid", tops.message, { field: tops.field && `sheet.${tops.field}` });
  return tops.value;
}

function withoutVaried(fixed: SettingValues, plan: HeightPlan | undefined): SettingValues {
  const varied = plan ? variedKeys(plan.bands) : [];
  return Object.fromEntries(Object.entries(fixed).filter(([key]) => !varied.includes(key as SettingKey)));
}

/** A copy, for another printer or spool if they are named; what the new printer says in other words is turned into them. */
export function copyOf(trial: Trial, to: CopyTarget): TrialFields {
  const printerId = to.printerId ?? trial.printerId;
  const spoolId = to.spoolId ?? trial.spoolId;
  const printer = printers.get(printerId);
  const onPrinter = printer && printerId !== trial.printerId ? forPrinter(trial, printer) : trial;
  const [from, other] = [spools.get(trial.spoolId, true), spools.get(spoolId)];
  const moved =
    printer && from && other && spoolId !== trial.spoolId
      ? forSpool(onPrinter, printer, {
          from: { spool: from, kept: keptSettings(trial.printerId, trial.spoolId) },
          to: other,
          kept: keptSettings(printerId, spoolId),
        })
      : onPrinter;
  // A question put to another spool is another question; the same one again is a copy.
  const name = moved.name === trial.name ? `${trial.name} (copy)`.slice(0, 100) : moved.name;
  return { ...moved, printerId, spoolId, name: to.name ?? name };
}

/** What the printer's firmware lets its axes have, by the last reading of its values. */
export function ceilingOf(printerId: number): Ceiling | null {
  const [latest] = snapshots.list(printerId, 1);
  const accelerationMmS2 = latest ? accelerationCeiling(latest.entries) : null;
  return accelerationMmS2 === null ? null : { accelerationMmS2, readAt: latest.takenAt };
}

/** All a build needs; a 409 with a sentence if printer or spool were removed. */
export function inputFor(trial: Trial): TrialInput {
  const printer = printers.get(trial.printerId);
  const spool = spools.get(trial.spoolId);
  if (!printer)
    throw new Refused("conflict", "The printer of this trial was removed. Restore it, or choose another one.", {
      field: "printerId",
    });
  if (!spool)
    throw new Refused("conflict", "The spool of this trial was removed. Restore it, or choose another one.", {
      field: "spoolId",
    });
  const { printerId, spoolId } = trial;
  return {
    ...{ trial, printer, spool },
    kept: keptSettings(printerId, spoolId),
    expected: rangesFor(printerId, spoolId),
    ceiling: ceilingOf(printerId),
  };
}
