import { sheets } from "@/server/db/sheets";
import { handle, json, pathId } from "@/server/http/respond";
import { missing } from "@/server/refused";

export const POST = handle(
  (_, params) => {
    const id = pathId(params, "sheet");
    if (!sheets.restore(id)) throw missing(`There is no sheet ${id}.`);
    return json({ id });
  },
  { who: "bench" },
);
