import { fileOf } from "@/server/http/files";
import { handle, json } from "@/server/http/respond";
import { wholeOf } from "@/server/http/window";
import { Refused } from "@/server/refused";
import { runTask } from "@/server/tasks/pool";
import { editInput, storedEdits } from "@/server/work/files";

/** Strands over air, by what lies below them: ?edit=2 looks at the file as edit 2 (from 0) finds it. */
export const GET = handle(
  async (request, params) => {
    const file = fileOf(params);
    const index = wholeOf(request, "edit", { low: 0, high: 49, otherwise: 0 });
    const input = { ...(await editInput(file, storedEdits(file), request.signal)), index };
    const found = await runTask("fileBridges", input, { signal: request.signal });
    if (!found.ok) throw new Refused("conflict", found.message, { field: found.field });
    return json(found.value);
  },
  { who: "reader" },
);
