import { handle, json } from "@/server/http/respond";
import { beginEmpty } from "@/server/work/backup";

/** An empty bench in place of everything there is; what was there before is kept beside it, as at a restore. */
export const POST = handle(async (request) => json(await beginEmpty(request.signal)), { who: "bench" });
