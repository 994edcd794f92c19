import { fileOf } from "@/server/http/files";
import { handle, json } from "@/server/http/respond";
import { isEditedAsked } from "@/server/http/window";
import { Refused } from "@/server/refused";
import { runTask } from "@/server/tasks/pool";
import { lookInput } from "@/server/work/files";

const MOST_HITS = 500;

/** Lines that hold a text: ?text=M106&edited=1 → `{count, hits: [{line, text}]}`, the first 500, lines from 0. */
export const GET = handle(async (request, params) => {
  const text = new URL(request.url).searchParams.get("text") ?? "";
  if (text === "" || text.length > 200)
    throw new Refused("invalid", "Say what to look for: 1 to 200 letters.", { field: "text" });
  const input = { ...lookInput(fileOf(params), isEditedAsked(request)), text, most: MOST_HITS };
  return json(await runTask("searchFile", input, { signal: request.signal }));
});
