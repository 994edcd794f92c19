import { editSets } from "@/server/db/edit-sets";
import { handle, json, pathId } from "@/server/http/respond";
import { missing } from "@/server/refused";

export const DELETE = handle(
  (_, params) => {
    const id = pathId(params, "set of edits");
    if (!editSets.remove(id)) throw missing(`There is no set of edits ${id}.`);
    return json({ id });
  },
  { who: "bench" },
);
