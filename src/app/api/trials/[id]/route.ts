import { trialChangeSchema } from "@/core/trials/trial";
import { trials } from "@/server/db/trials";
import { checkPair, trialOf, withBands } from "@/server/http/trials";
import { handle, json, notFound, pathId, readBody } from "@/server/http/respond";

export const GET = handle((_, params) => json(withBands(trialOf(params))));

export const PUT = handle(async (request, params) => {
  const before = trialOf(params);
  const changes = await readBody(request, trialChangeSchema);
  const wanted = { ...before, ...changes };
  if (changes.printerId !== undefined || changes.spoolId !== undefined) checkPair(wanted.printerId, wanted.spoolId);
  const after = trials.change(before.id, wanted);
  if (!after) throw notFound(`There is no trial ${before.id}.`);
  return json(withBands(after));
});

export const DELETE = handle((_, params) => {
  const id = pathId(params, "trial");
  if (!trials.remove(id)) throw notFound(`There is no trial ${id}.`);
  return json({ id });
});
