import { runs } from "@/server/db/runs";
import { handle, json, pathId } from "@/server/http/respond";
import { missing } from "@/server/refused";
import { sentRun } from "@/server/work/runs";

export const POST = handle(
  (_, params) => {
    const id = pathId(params, "run");
    const run = runs.restore(id);
    if (!run) throw missing(`There is no run ${id}.`);
    return json(sentRun(run));
  },
  { who: "bench" },
);
