/** What the trial routes share. */
import { StoredTrial, trials } from "../db/trials";
import { missing } from "../refused";
import { pathId } from "./respond";

/** The trial of a path, or a 404. */
export function trialOf(params: Record<string, string>): StoredTrial {
  const id = pathId(params, "trial");
  const trial = trials.get(id);
  if (!trial) throw missing(`There is no trial ${id}.`);
  return trial;
}
