/** What the trial routes share. */
import { layerTops } from "@/core/heightplan/layer-grid";
import { planHeightMm, resolveBands } from "@/core/heightplan/plan";
import { Trial } from "@/core/trials/trial";
import { TrialInput } from "@/core/trials/build";
import { printers } from "../db/printers";
import { spools } from "../db/spools";
import { trials } from "../db/trials";
import { HttpError, notFound, pathId } from "./respond";

/** The trial of a path, or a 404. */
export function trialOf(params: Record<string, string>): Trial {
  const id = pathId(params, "trial");
  const trial = trials.get(id);
  if (!trial) throw notFound(`There is no trial ${id}.`);
  return trial;
}

/** A trial with its bands on whole layers. */
export function withBands(trial: Trial) {
  const tops = layerTops(planHeightMm(trial.plan), trial.firstLayerHeightMm, trial.layerHeightMm);
  const bands = resolveBands(trial.plan, tops);
  return { ...trial, layerCount: tops.length, bands };
}

/** Refuses ids that are not on the shelf. */
export function checkPair(printerId: number, spoolId: number): void {
  if (!printers.get(printerId)) {
    throw new HttpError(400, `There is no printer ${printerId} on the shelf. Choose another one.`, {
      field: "printerId",
    });
  }
  if (!spools.get(spoolId)) {
    throw new HttpError(400, `There is no spool ${spoolId} on the shelf. Choose another one.`, { field: "spoolId" });
  }
}

/** All a build needs; a 409 with a sentence if printer or spool were removed. */
export function inputFor(trial: Trial): TrialInput {
  const printer = printers.get(trial.printerId);
  const spool = spools.get(trial.spoolId);
  if (!printer)
    throw new HttpError(409, "The printer of this trial was removed. Restore it, or choose another one.", {
      field: "printerId",
    });
  if (!spool)
    throw new HttpError(409, "The spool of this trial was removed. Restore it, or choose another one.", {
      field: "spoolId",
    });
  return { trial, printer, spool };
}
