import type { Hits } from "@/core/edits/look";
import { fileOf } from "@/server/http/files";
import { handle, json } from "@/server/http/respond";
import { isEditedAsked } from "@/server/http/window";
import { Refused } from "@/server/refused";
import { runTask } from "@/server/tasks/pool";
import { lookInput } from "@/server/work/files";

const MOST_HITS = 500;
const LINES_OF_JSON = "application/x-ndjson";

/**
 * Lines that hold a text: ?text=M106&edited=1 → `{count, hits: [{line, text}]}`, the first 500, lines from 0. Who accepts
 * application/x-ndjson hears of them as they are found: a line `{line, text}` a hit, `{share}` on the way, `{count}` at the end.
 */
export const GET = handle(
  async (request, params) => {
    const text = new URL(request.url).searchParams.get("text") ?? "";
    if (text === "" || text.length > 200)
      throw new Refused("invalid", "Say what to look for: 1 to 200 characters.", { field: "text" });
    const file = fileOf(params);
    const input = { ...lookInput(file, isEditedAsked(request)), text, most: MOST_HITS, sizeBytes: file.sizeBytes };
    if (!request.headers.get("accept")?.includes(LINES_OF_JSON)) {
      return json(await runTask("searchFile", input, { signal: request.signal }));
    }
    const stop = new AbortController();
    request.signal.addEventListener("abort", () => stop.abort());
    const body = new ReadableStream<Uint8Array>({
      async start(controller) {
        const say = (one: object) => controller.enqueue(new TextEncoder().encode(`${JSON.stringify(one)}\n`));
        try {
          const { count } = await runTask("searchFile", input, {
            signal: stop.signal,
            onProgress: (share) => say({ share }),
            onPart: (hits) => (hits as Hits["hits"]).forEach(say),
          });
          say({ count });
          controller.close();
        } catch (error) {
          // Who went away is told nothing; anything else ends the answer without its last line.
          if (!stop.signal.aborted) controller.error(error);
        }
      },
      cancel: () => stop.abort(),
    });
    return new Response(body, { headers: { "Content-Type": LINES_OF_JSON, "Cache-Control": "no-store" } });
  },
  { who: "reader" },
);
