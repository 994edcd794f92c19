import { changesAfter } from "@/server/changes";
import { databaseTrouble } from "@/server/db/connection";
import { unreadableRecords } from "@/server/db/rows";
import { handle, json } from "@/server/http/respond";

/**
 * What was changed behind `after`, so that open pages can follow: `{next, all, changes}`; ask with `next` the next time. `trouble` is
 * what is wrong with the database, `unreadable` what in it cannot be read.
 */
export const GET = handle(
  (request) => {
    const after = Number(new URL(request.url).searchParams.get("after") ?? 0);
    const trouble = databaseTrouble();
    return json({ ...changesAfter(Number.isFinite(after) ? after : 0), trouble, unreadable: unreadableRecords() });
  },
  { who: "reader" },
);
