import { linesBody } from "@/server/http/link";
import { readBody } from "@/server/http/body";
import { handle, json } from "@/server/http/respond";
import { openLinkOf } from "@/server/link/hub";

/** Puts lines into the queue as they are; what comes back is told by the events. */
export const POST = handle(
  async (request) => {
    const { printerId, lines, source } = await readBody(request, linesBody);
    const { session } = openLinkOf(printerId);
    for (const line of lines) void session.exchange(line, source);
    return json({ queued: lines.length }, 202);
  },
  { who: "actor" },
);
