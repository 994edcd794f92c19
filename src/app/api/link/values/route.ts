import { snapshots, valueChanges } from "@/server/db/firmware-values";
import { printerOfQuery } from "@/server/http/link";
import { handle, json } from "@/server/http/respond";

/** Readings and changes, newest first. */
export const GET = handle(
  (request) => {
    const { id } = printerOfQuery(request);
    return json({ snapshots: snapshots.list(id), changes: valueChanges.list(id) });
  },
  { who: "reader" },
);
