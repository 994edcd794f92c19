import { linkEvents } from "@/server/db/link-events";
import { printerOfQuery } from "@/server/http/link";
import { disposition } from "@/server/http/download";
import { handle, json } from "@/server/http/respond";
import { hub } from "@/server/link/hub";
import { Refused } from "@/server/refused";

const PIECE = 2000;
/** A page holds no more. */
const MOST_EVENTS = 5000;
const marks = { out: ">", in: "<", note: "-" };

/** The conversation of a day as text: time, direction, the line as it was; or its first events as JSON (`as=events`). */
export const GET = handle(
  (request) => {
    const printer = printerOfQuery(request);
    const day = new URL(request.url).searchParams.get("day") ?? "";
    if (!/^\d{4}-\d{2}-\d{2}$/.test(day) || Number.isNaN(Date.parse(day)))
      throw new Refused("invalid", "Say which day, like &day=2026-05-31.", { field: "day" });
    hub().journal.store();
    const query = new URL(request.url).searchParams;
    if (query.get("as") === "events")
      return json(linkEvents.ofDay(printer.id, day, 0, MOST_EVENTS, query.get("all") === "1"));
    const encoder = new TextEncoder();
    let after = 0;
    // One piece a pull, so that a long day holds nothing up.
    const body = new ReadableStream<Uint8Array>({
      pull(controller) {
        const events = linkEvents.ofDay(printer.id, day, after, PIECE);
        if (events.length === 0) return controller.close();
        after = events[events.length - 1].id;
        const text = events.map(
          ({ atMs, direction, text }) => `${new Date(atMs).toISOString()} ${marks[direction]} ${text}\n`,
        );
        controller.enqueue(encoder.encode(text.join("")));
      },
    });
    return new Response(body, {
      headers: {
        "Content-Type": "text/plain; charset=utf-8",
        "Content-Disposition": disposition(`${printer.name} ${day}.txt`),
        "Cache-Control": "no-store",
      },
    });
  },
  { who: "reader" },
);
