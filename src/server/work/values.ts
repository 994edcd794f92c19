/** What is done with kept values: taken over to another pair, put back, written out. */
import { sayValue, SettingKey } from "@/core/settings";
import type { KeptValue } from "@/core/trials/kept";
import { database } from "../db/connection";
import { kept } from "../db/kept";
import { printers } from "../db/printers";
import { runs } from "../db/runs";
import { spools } from "../db/spools";
import { trials } from "../db/trials";
import { missing, Refused } from "../refused";
import { checkPair } from "./trials";

/** Nozzle and layer height a value was found with: the run's or the trial's; the printer's own nozzle where neither is named. */
export function foundWith(
  printerId: number,
  { runId, trialId }: { runId?: number | null; trialId: number | null },
): Pick<KeptValue, "nozzleMm" | "layerHeightMm"> {
  const run = runId ? runs.get(runId) : null;
  if (run) return { nozzleMm: run.printer.nozzleMm, layerHeightMm: run.trial.layerHeightMm };
  const trial = trialId === null ? null : trials.get(trialId);
  return { nozzleMm: printers.get(printerId)!.nozzleMm, layerHeightMm: trial?.layerHeightMm ?? null };
}

interface Pair {
  printerId: number;
  spoolId: number;
}

/**
 * Takes values over to another pair as a start. Without settings named, all that the other pair has none of. Refused if the materials
 * differ, for then they say nothing, or if there is nothing to take over.
 */
export function carryOver(from: Pair, to: Pair, settings?: readonly SettingKey[]): KeptValue[] {
  checkPair(from.printerId, from.spoolId);
  checkPair(to.printerId, to.spoolId);
  const [one, other] = [spools.get(from.spoolId)!, spools.get(to.spoolId)!];
  if (one.material !== other.material) {
    throw new Refused("invalid", `Values of ${one.material} say nothing about ${other.material}: ask anew.`, {
      field: "spoolId",
    });
  }
  const there = new Set(kept.list(to.printerId, to.spoolId).map(({ setting }) => setting));
  const wanted = kept
    .list(from.printerId, from.spoolId)
    .filter(({ setting }) => (settings ? settings.includes(setting) : !there.has(setting)));
  if (wanted.length === 0)
    throw new Refused("conflict", "There is nothing to take over that is not kept there already.");
  const printer = printers.get(to.printerId)!;
  const tooHot = wanted.find(({ setting, value }) => setting === "nozzleTemperature" && value > printer.highestNozzleC);
  if (tooHot) {
    throw new Refused(
      "invalid",
      `${printer.name} reaches ${printer.highestNozzleC} °C, not ${sayValue("nozzleTemperature", tooHot.value)}.`,
    );
  }
  return database().transaction(() =>
    wanted.map(({ id, setting, value, fromValue, toValue }) =>
      kept.add({
        ...to,
        trialId: null,
        setting,
        value,
        fromValue,
        toValue,
        carriedFrom: id,
        nozzleMm: printer.nozzleMm,
      }),
    ),
  )();
}

/** Keeps an earlier value once more: it is the newest then, with all that was known of it. */
export function putBack(id: number): KeptValue {
  const earlier = kept.get(id);
  if (!earlier) throw missing(`There is no kept value ${id}.`);
  const { id: _, version: _v, keptAt: _k, inForce: _i, ...fields } = earlier;
  return kept.add(fields);
}
