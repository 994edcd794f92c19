import { fileOf } from "@/server/http/files";
import { handle, json } from "@/server/http/respond";
import { isEditedAsked, windowOf } from "@/server/http/window";
import { runTask } from "@/server/tasks/pool";
import { lookInput } from "@/server/work/files";

const MOST_LINES = 2000;

/** A window of the file's lines: ?from=0&count=200&edited=1 → `{from, lines}`, counted from 0. */
export const GET = handle(async (request, params) => {
  const { from, count } = windowOf(request, MOST_LINES);
  const input = { ...lookInput(fileOf(params), isEditedAsked(request)), from, count };
  return json({ from, lines: await runTask("fileLines", input, { signal: request.signal }) });
});
