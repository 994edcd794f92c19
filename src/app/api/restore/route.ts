import { handle, json } from "@/server/http/respond";
import { restoreFrom } from "@/server/work/backup";

/** Puts a backup in place of everything there is, as `PUT /api/backup` does. */
export const POST = handle(async (request) => json(await restoreFrom(request)), { who: "bench" });
