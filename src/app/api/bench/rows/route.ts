import { handle, json, plainId } from "@/server/http/respond";
import { Refused } from "@/server/refused";
import { rowsFor } from "@/server/work/pages";

/** What the bench says of each question for a pair: ?printerId=1&spoolId=1 */
export const GET = handle((request) => {
  const { searchParams } = new URL(request.url);
  const [printerId, spoolId] = ["printerId", "spoolId"].map((name) => plainId(searchParams.get(name) ?? ""));
  if (printerId === null || spoolId === null) {
    throw new Refused("invalid", "Say for which pair: /api/bench/rows?printerId=1&spoolId=1");
  }
  return json(rowsFor(printerId, spoolId));
});
