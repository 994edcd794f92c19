import { fileOf } from "@/server/http/files";
import { handle, json } from "@/server/http/respond";
import { wholeOf, windowOf } from "@/server/http/window";
import { previewEdit } from "@/server/work/files";

const MOST_LINES = 1000;

/** What one edit of the stack changes: ?edit=0&from=0&count=100 → `{total, lines: [{line, layer, before, after}]}`, lines from 0. */
export const GET = handle(
  async (request, params) => {
    const index = wholeOf(request, "edit", { low: 0, high: 49, otherwise: 0 });
    return json(await previewEdit(fileOf(params), { index, ...windowOf(request, MOST_LINES) }, request.signal));
  },
  { who: "reader" },
);
