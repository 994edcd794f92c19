import { fileOf } from "@/server/http/files";
import { handle, json } from "@/server/http/respond";
import { isEditedAsked } from "@/server/http/window";
import { Refused } from "@/server/refused";
import { lookKey } from "@/server/tasks/look-key";
import { runTask } from "@/server/tasks/pool";
import { lookInput, printerFor } from "@/server/work/files";

/** A cut through the outer wall, 5 mm wide and 2 mm high: ?atMm=4&edited=1 */
export const GET = handle(
  async (request, params) => {
    const file = fileOf(params);
    const atMm = Number(new URL(request.url).searchParams.get("atMm") ?? 0);
    if (!(atMm >= 0 && atMm < 2000)) {
      throw new Refused("invalid", "atMm is a height from 0 to 2000 mm.", { field: "atMm" });
    }
    const input = { ...lookInput(file, isEditedAsked(request)), printer: printerFor(file), atMm };
    return json(await runTask("fileCut", input, { signal: request.signal, holds: lookKey(input, input.printer) }));
  },
  { who: "reader" },
);
