import { runs } from "@/server/db/runs";
import { handle, json, pathId } from "@/server/http/respond";
import { missing } from "@/server/refused";
import { runOf, sentRun } from "@/server/work/runs";

export const GET = handle((_, params) => json(sentRun(runOf(pathId(params, "run")))), { who: "reader" });

export const DELETE = handle(
  (_, params) => {
    const id = pathId(params, "run");
    if (!runs.remove(id)) throw missing(`There is no run ${id}.`);
    return json({ id });
  },
  { who: "bench" },
);
