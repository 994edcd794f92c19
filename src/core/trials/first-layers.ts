/**
 * The first layers of a print, as the spool wants them: nozzle and bed some degrees hotter, so that they take, and the fan off until a chosen
 * layer, so that they stay (common practice, no source). What a band sets itself is the question, and holds from the bed on.
 */
import { variedKeys } from "../heightplan/plan";
import { columnsOf, Followed } from "../heightplan/planned";
import { speaksOf } from "../printing/template";
import { SettingKey, settingFor } from "../settings";
import { Printer } from "../shelf/printer";
import { Spool } from "../shelf/spool";
import { plainNumber } from "../units";
import { trialKindFor } from ".";
import { Trial } from "./trial";

/** Index of the first layer in which a band sets the setting; `layerCount` if none does. */
export function firstClaimed({ followed }: Followed, key: SettingKey, layerCount: number): number {
  const at = followed[key]?.findIndex((band) => band >= 0) ?? -1;
  return at < 0 ? layerCount : at;
}

/** Writes into a plan what holds below its bands: the first layers' own values, and the usual ones from there up. */
export function layFirstLayers(followed: Followed, about: FirstLayersRequest, layerCount: number): void {
  const { fixed } = about.trial;
  for (const { key, value, layers } of hotter(about)) {
    const until = firstClaimed(followed, key, layerCount);
    const { values } = columnsOf(followed, key, layerCount);
    values.fill(fixed[key]!, 0, until);
    values.fill(value, 0, Math.min(layers, until));
  }
  const fanFrom = fanFromLayer(followed, about, layerCount);
  if (fixed.fan === undefined || fanFrom === null) return;
  const { values } = columnsOf(followed, "fan", layerCount);
  values.fill(0, 0, fanFrom);
  // Further up more of it is said over air, so that no one value holds.
  values[fanFrom] = fixed.fan;
}

/** The layer (index) from which the fan blows as it is held fixed; null if a band has its own before, or the piece ends before. */
export function fanFromLayer(
  followed: Followed,
  { trial, spool }: Pick<FirstLayersRequest, "trial" | "spool">,
  layerCount: number,
): number | null {
  if (!trial.fixed.fan) return null;
  const from = spool.fanFromLayer - 1;
  return from < firstClaimed(followed, "fan", layerCount) ? from : null;
}

export interface FirstLayersRequest {
  trial: Pick<Trial, "kind" | "fixed" | "plan">;
  printer: Printer;
  spool: Spool;
}

/** Nozzle and bed of the first layers where they differ from what is held fixed. */
function hotter({ trial: { kind, fixed, plan }, printer, spool }: FirstLayersRequest) {
  const isHeldBetween = trialKindFor(kind).spread !== undefined;
  const own = [
    {
      key: "nozzleTemperature" as const,
      more: spool.firstLayersNozzleHotterC,
      highest: printer.highestNozzleC,
      name: "nozzleFirst" as const,
    },
    {
      key: "bedTemperature" as const,
      more: spool.firstLayersBedHotterC,
      highest: printer.highestBedC,
      name: "bedFirst" as const,
    },
  ];
  return own.flatMap(({ key, more, highest, name }) => {
    const usual = fixed[key];
    // Where a setting is asked about and not held in between, its first band begins on the bed.
    // Start lines that heat by figures of their own, or not at all, are left to do so.
    if (!speaksOf(printer.startLines, name)) return [];
    if (usual === undefined || (!isHeldBetween && variedKeys(plan.bands).includes(key))) return [];
    const value = Math.min(usual + more, highest);
    return value <= usual ? [] : [{ key, value, layers: spool.firstLayers }];
  });
}

/** What is different on the first layers, in words for header and page; null if nothing is. */
export function sayFirstLayers(about: FirstLayersRequest): string | null {
  const parts = hotter(about).map(
    ({ key, value }) => `${settingFor(key).short} ${plainNumber(value, 0)} ${settingFor(key).unit}`,
  );
  const { firstLayers, fanFromLayer: from } = about.spool;
  const which = firstLayers === 1 ? "first layer" : `first ${firstLayers} layers`;
  const isFanLate = from !== USUAL_FAN_FROM_LAYER && (about.trial.fixed.fan ?? 0) > 0;
  const said = [
    ...(parts.length > 0 ? [`${which}: ${parts.join(", ")}`] : []),
    ...(isFanLate ? [`fan from layer ${from}`] : []),
  ];
  return said.length > 0 ? said.join("; ") : null;
}

/** The fan starts behind the first layer, so that the piece sticks. */
const USUAL_FAN_FROM_LAYER = 2;
