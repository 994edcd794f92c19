import { z } from "zod";
import { jobs } from "@/server/db/jobs";
import { printerOfQuery } from "@/server/http/link";
import { readBody } from "@/server/http/body";
import { handle, json } from "@/server/http/respond";
import { hub } from "@/server/link/hub";

const body = z.object({ jobId: z.int({ error: "Say which job" }) });

/** Jobs of a printer, newest first; with `all=1` those of all printers in brief; otherwise those that broke off and that nobody has looked at. */
export const GET = handle(
  (request) => {
    hub();
    const { searchParams } = new URL(request.url);
    if (searchParams.get("all") === "1") return json(jobs.briefs());
    const asked = searchParams.has("printerId");
    return json(asked ? jobs.list(printerOfQuery(request).id) : jobs.brokenUnseen());
  },
  { who: "reader" },
);

/** Says that a broken job was looked at. */
export const POST = handle(
  async (request) => {
    jobs.see((await readBody(request, body)).jobId);
    return json({});
  },
  { who: "actor" },
);
