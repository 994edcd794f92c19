import { CALLER_HEADER } from "@/server/who";
import { printerOfQuery } from "@/server/http/link";
import { handle } from "@/server/http/respond";
import { eventStream } from "@/server/link/event-stream";

/**
 * Server-sent events of one printer: `lines` (what was said), `heat` (new temperatures), `status`. Resumes behind
 * `Last-Event-ID`. `all=1` brings the lines of jobs too, `heat=1` asks the printer for temperatures while it is open.
 */
export const GET = handle(
  (request) => {
    const printer = printerOfQuery(request);
    const query = new URL(request.url).searchParams;
    const lastId = request.headers.get("last-event-id") ?? query.get("after");
    return new Response(
      eventStream(printer.id, {
        caller: request.headers.get(CALLER_HEADER) ?? "stranger",
        afterId: lastId === null || !/^\d+$/.test(lastId) ? null : Number(lastId),
        all: query.get("all") === "1",
        heat: query.get("heat") === "1",
        signal: request.signal,
      }),
      {
        headers: {
          "Content-Type": "text/event-stream; charset=utf-8",
          "Cache-Control": "no-cache, no-transform",
          "X-Accel-Buffering": "no",
        },
      },
    );
  },
  { who: "reader" },
);
