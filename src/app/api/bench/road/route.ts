import { handle, json, pairOf } from "@/server/http/respond";
import { roadFor } from "@/server/work/pages";

/** Everything that can be found out for a pair, in the order of work: ?printerId=1&spoolId=1 */
export const GET = handle(
  (request) => {
    const { printerId, spoolId } = pairOf(request);
    return json(roadFor(printerId, spoolId));
  },
  { who: "reader" },
);
