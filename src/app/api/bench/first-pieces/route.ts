import { handle, json, pairOf } from "@/server/http/respond";
import { firstPiecesFor } from "@/server/work/first-pieces";

/** The piece of every kind's first round for a pair, with its small picture: ?printerId=1&spoolId=1 */
export const GET = handle(
  async (request) => {
    const { printerId, spoolId } = pairOf(request);
    return json(await firstPiecesFor(printerId, spoolId));
  },
  { who: "reader" },
);
