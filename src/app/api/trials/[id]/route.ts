import { trialKindFor } from "@/core/trials";
import { checkOptions } from "@/core/options/option";
import { trialChangeSchema } from "@/core/trials/trial";
import { trials } from "@/server/db/trials";
import { checkPair, trialOf, withBands } from "@/server/http/trials";
import { handle, HttpError, json, notFound, pathId, readBody } from "@/server/http/respond";

export const GET = handle((_, params) => json(withBands(trialOf(params))));

export const PUT = handle(async (request, params) => {
  const before = trialOf(params);
  const changes = await readBody(request, trialChangeSchema);
  const wanted = { ...before, ...changes };
  if (changes.printerId !== undefined || changes.spoolId !== undefined) checkPair(wanted.printerId, wanted.spoolId);
  if (changes.options) {
    const options = checkOptions(trialKindFor(before.kind).options, changes.options);
    if (!options.ok) throw new HttpError(400, options.message, { field: options.field });
  }
  const after = trials.change(before.id, wanted);
  if (!after) throw notFound(`There is no trial ${before.id}.`);
  return json(withBands(after));
});

export const DELETE = handle((_, params) => {
  const id = pathId(params, "trial");
  if (!trials.remove(id)) throw notFound(`There is no trial ${id}.`);
  return json({ id });
});
