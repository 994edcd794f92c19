import { fileOf } from "@/server/http/files";
import { handle, json } from "@/server/http/respond";
import { isEditedAsked } from "@/server/http/window";
import { lookKey } from "@/server/tasks/look-key";
import { runTask } from "@/server/tasks/pool";
import { lookInput, printerFor } from "@/server/work/files";

/** The piece seen from the front, as rectangles: ?edited=1 */
export const GET = handle(
  async (request, params) => {
    const file = fileOf(params);
    const input = { ...lookInput(file, isEditedAsked(request)), printer: printerFor(file) };
    return json(await runTask("fileFront", input, { signal: request.signal, holds: lookKey(input, input.printer) }));
  },
  { who: "reader" },
);
