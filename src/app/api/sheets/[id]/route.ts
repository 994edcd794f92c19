import { sheets } from "@/server/db/sheets";
import { handle, json, pathId } from "@/server/http/respond";
import { readSheet } from "@/server/http/sheets";
import { missing } from "@/server/refused";
import { sheetOf } from "@/server/work/sheets";

export const GET = handle((_, params) => json(sheetOf(pathId(params, "sheet"))), { who: "reader" });

/** The whole sheet; with `revision` refused if somebody else has changed it. */
export const PUT = handle(
  async (request, params) => {
    const id = pathId(params, "sheet");
    const { sheet, revision } = await readSheet(request);
    const changed = sheets.change(id, sheet, revision);
    if (!changed) throw missing(`There is no sheet ${id}.`);
    return json(changed);
  },
  { who: "bench" },
);

export const DELETE = handle(
  (_, params) => {
    const id = pathId(params, "sheet");
    if (!sheets.remove(id)) throw missing(`There is no sheet ${id}.`);
    return json({ id });
  },
  { who: "bench" },
);
