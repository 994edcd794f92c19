import { z } from "zod";
import { sheetSchema } from "@/core/sheets/sheet-schema";
import { readBody } from "@/server/http/body";
import { handle, json } from "@/server/http/respond";
import { Refused } from "@/server/refused";
import { runTask } from "@/server/tasks/pool";
import { sheetInput } from "@/server/work/sheets";

const body = z.object({ sheet: sheetSchema, printerId: z.int().optional(), spoolId: z.int().optional() });

/** What a sheet takes and what is wrong with it, without keeping it → `{figures, findings, passed}`. */
export const POST = handle(
  async (request) => {
    const { sheet, printerId, spoolId } = await readBody(request, body);
    const built = await runTask("reportSheet", sheetInput(sheet, { printerId, spoolId }), { signal: request.signal });
    if (!built.ok) throw new Refused("invalid", built.message, { field: built.field && `sheet.${built.field}` });
    const { figures, findings, passed } = built.value;
    return json({ figures, findings, passed });
  },
  { who: "reader" },
);
