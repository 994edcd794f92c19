import { handle, json, pairOf } from "@/server/http/respond";
import { rowsFor } from "@/server/work/pages";

/** What the bench says of each question for a pair: ?printerId=1&spoolId=1 */
export const GET = handle(
  (request) => {
    const { printerId, spoolId } = pairOf(request);
    return json(rowsFor(printerId, spoolId));
  },
  { who: "reader" },
);
