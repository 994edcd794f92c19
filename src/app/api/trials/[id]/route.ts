import { optionsOfKind } from "@/core/trials/options-of-kind";
import { trialChangeSchema } from "@/core/trials/trial-schema";
import { trials } from "@/server/db/trials";
import { trialOf } from "@/server/http/trials";
import { checkPair, refuseFractions, refusePairs, withBands } from "@/server/work/trials";
import { checked, readChange } from "@/server/http/body";
import { handle, json, pathId } from "@/server/http/respond";
import { Refused, missing } from "@/server/refused";

export const GET = handle((_, params) => json(withBands(trialOf(params))), { who: "reader" });

export const PUT = handle(
  async (request, params) => {
    // The body first: what stands in the trial is looked at when nothing can come in between any more.
    const { body, seen } = await readChange(request);
    const changes = checked(body, trialChangeSchema);
    refuseFractions(changes);
    refusePairs(changes.plan);
    const before = trialOf(params);
    const wanted = { ...before, ...changes };
    if (changes.printerId !== undefined || changes.spoolId !== undefined) checkPair(wanted.printerId, wanted.spoolId);
    if (changes.options) {
      const options = optionsOfKind(before.kind, changes.options);
      if (!options.ok) throw new Refused("invalid", options.message, { field: options.field });
    }
    const after = trials.change(before.id, changes, seen);
    if (!after) throw missing(`There is no trial ${before.id}.`);
    return json(withBands(after));
  },
  { who: "bench" },
);

export const DELETE = handle(
  (_, params) => {
    const id = pathId(params, "trial");
    if (!trials.remove(id)) throw missing(`There is no trial ${id}.`);
    return json({ id });
  },
  { who: "bench" },
);
