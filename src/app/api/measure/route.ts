import { z } from "zod";
import { tuneKeys } from "@/core/measure";
import { tuneResultSchema } from "@/core/measure/result-schema";
import { measurements } from "@/server/db/measurements";
import { readBody } from "@/server/http/body";
import { printerBody, printerOfQuery } from "@/server/http/link";
import { handle, json } from "@/server/http/respond";
import { keepResult } from "@/server/work/keep-result";

const body = printerBody.extend(tuneResultSchema.shape).extend({
  tune: z.enum(tuneKeys, { error: "There is no such tune" }),
  /** The spool that settings are kept for; null keeps none. */
  spoolId: z.int({ error: "spoolId is a whole number" }).nullable().default(null),
});

/** Results kept for a printer, newest first. */
export const GET = handle((request) => json(measurements.list(printerOfQuery(request).id)), { who: "reader" });

/** Keeps a result, with the settings and the printer's figures that follow from it: all of it or nothing. */
export const POST = handle(
  async (request) => {
    const { printerId, tune, spoolId, ...result } = await readBody(request, body);
    return json({ id: keepResult(printerId, spoolId, tune, result) }, 201);
  },
  { who: "actor" },
);
