import { handle, json, pairOf } from "@/server/http/respond";
import { effortsFor } from "@/server/work/first-pieces";

/** Time and material of every kind's first round for a pair: ?printerId=1&spoolId=1 */
export const GET = handle(
  async (request) => {
    const { printerId, spoolId } = pairOf(request);
    return json(await effortsFor(printerId, spoolId));
  },
  { who: "reader" },
);
