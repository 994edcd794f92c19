import { sayState } from "@/core/firmware/holds";
import { fileOf } from "@/server/http/files";
import { handle, json } from "@/server/http/respond";
import { isEditedAsked, wholeOf } from "@/server/http/window";
import { runTask } from "@/server/tasks/pool";
import { lookInput, printerFor } from "@/server/work/files";

/** What the machine holds behind a line (from 0), as data and in words (`holds`): ?line=120&edited=1 */
export const GET = handle(
  async (request, params) => {
    const file = fileOf(params);
    const line = wholeOf(request, "line", { low: 0, high: 1e9, otherwise: 0 });
    const input = { ...lookInput(file, isEditedAsked(request)), line, printer: printerFor(file) };
    const state = await runTask("fileState", input, { signal: request.signal });
    return json({ ...state, holds: sayState(state) });
  },
  { who: "reader" },
);
