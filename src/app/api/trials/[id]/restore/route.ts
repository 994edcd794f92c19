import { trials } from "@/server/db/trials";
import { withBands } from "@/server/http/trials";
import { handle, json, notFound, pathId } from "@/server/http/respond";

export const POST = handle((_, params) => {
  const id = pathId(params, "trial");
  const trial = trials.restore(id);
  if (!trial) throw notFound(`There is no trial ${id}.`);
  return json(withBands(trial));
});
