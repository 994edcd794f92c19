import { readJsonText } from "@/server/http/body";
import { handle, json } from "@/server/http/respond";
import { importText } from "@/server/work/import-bench";

/** Reads everything of another bench in (docs/values.md), all of it or nothing; says what was new. */
export const POST = handle(
  async (request) => json(await importText(await readJsonText(request), request.signal), 201),
  {
    who: "bench",
  },
);
