import { snippets } from "@/server/db/snippets";
import { handle, json, pathId } from "@/server/http/respond";
import { missing } from "@/server/refused";

export const DELETE = handle(
  (_, params) => {
    const id = pathId(params, "snippet");
    if (!snippets.remove(id)) throw missing(`There is no snippet ${id}.`);
    return json({});
  },
  { who: "bench" },
);
