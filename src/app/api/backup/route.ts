import { disposition } from "@/server/http/download";
import { handle, json } from "@/server/http/respond";
import { backupStream, restoreFrom } from "@/server/work/backup";

/** A consistent copy of everything, made while the program runs: one database file. */
export const GET = handle(
  async (request) => {
    const { body, sizeBytes, name } = await backupStream(request.signal);
    return new Response(body, {
      headers: {
        "Content-Type": "application/vnd.sqlite3",
        "Content-Length": String(sizeBytes),
        "Content-Disposition": disposition(name),
        "Cache-Control": "no-store",
      },
    });
  },
  { who: "bench" },
);

/** Puts a backup in place of everything there is, once it was found whole; what was there before is kept beside it. */
export const PUT = handle(async (request) => json(await restoreFrom(request)), { who: "bench" });
