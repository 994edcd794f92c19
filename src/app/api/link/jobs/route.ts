import { z } from "zod";
import { jobs } from "@/server/db/jobs";
import { printerOfQuery } from "@/server/http/link";
import { readBody } from "@/server/http/body";
import { handle, json } from "@/server/http/respond";
import { hub } from "@/server/link/hub";

const body = z.object({ jobId: z.int({ error: "Say which job" }) });

/** Jobs of a printer, newest first; without a printer, those that broke off and that nobody has looked at. */
export const GET = handle((request) => {
  hub();
  const asked = new URL(request.url).searchParams.has("printerId");
  return json(asked ? jobs.list(printerOfQuery(request).id) : jobs.brokenUnseen());
});

/** Says that a broken job was looked at. */
export const POST = handle(async (request) => {
  jobs.see((await readBody(request, body)).jobId);
  return json({});
});
