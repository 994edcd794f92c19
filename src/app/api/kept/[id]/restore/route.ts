import { kept } from "@/server/db/kept";
import { handle, json, pathId } from "@/server/http/respond";
import { missing } from "@/server/refused";

export const POST = handle(
  (_, params) => {
    const id = pathId(params, "kept value");
    const restored = kept.restore(id);
    if (!restored) throw missing(`There is no kept value ${id}.`);
    return json(restored);
  },
  { who: "bench" },
);
