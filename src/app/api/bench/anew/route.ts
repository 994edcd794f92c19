import { askedAnew } from "@/server/db/kept";
import { handle, json, pairOf } from "@/server/http/respond";
import { checkPair } from "@/server/work/trials";

/** Everything is to be asked again for a pair: what is kept stays, and counts as stale. */
export const POST = handle(
  (request) => {
    const { printerId, spoolId } = pairOf(request);
    checkPair(printerId, spoolId);
    return json({ at: askedAnew.set(printerId, spoolId) }, 201);
  },
  { who: "bench" },
);

export const DELETE = handle(
  (request) => {
    const { printerId, spoolId } = pairOf(request);
    askedAnew.clear(printerId, spoolId);
    return json({ at: null });
  },
  { who: "bench" },
);
