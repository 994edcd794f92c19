import { trials } from "@/server/db/trials";
import { withBands } from "@/server/work/trials";
import { handle, json, pathId } from "@/server/http/respond";
import { missing } from "@/server/refused";

export const POST = handle(
  (_, params) => {
    const id = pathId(params, "trial");
    const trial = trials.restore(id);
    if (!trial) throw missing(`There is no trial ${id}.`);
    return json(withBands(trial));
  },
  { who: "bench" },
);
