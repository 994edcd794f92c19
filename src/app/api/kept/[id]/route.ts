import { kept } from "@/server/db/kept";
import { handle, json, pathId } from "@/server/http/respond";
import { missing } from "@/server/refused";

export const DELETE = handle(
  (_, params) => {
    const id = pathId(params, "kept value");
    if (!kept.remove(id)) throw missing(`There is no kept value ${id}.`);
    return json({ id });
  },
  { who: "bench" },
);
