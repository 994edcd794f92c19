import { z } from "zod";
import { tuneKeys } from "@/core/measure";
import { readBench } from "@/server/db/bench";
import { measurements } from "@/server/db/measurements";
import { printers } from "@/server/db/printers";
import { printerBody, printerOfQuery } from "@/server/http/link";
import { readBody } from "@/server/http/body";
import { handle, json } from "@/server/http/respond";
import { missing } from "@/server/refused";

const body = printerBody.extend({
  tune: z.enum(tuneKeys, { error: "There is no such tune" }),
  text: z.string({ error: "Say what came of it" }).max(500, "At most 500 letters"),
  values: z.record(z.string().max(40), z.number({ error: "A value must be a number" })).default({}),
});

/** Results kept for a printer, newest first. */
export const GET = handle((request) => json(measurements.list(printerOfQuery(request).id)));

export const POST = handle(async (request) => {
  const { printerId, tune, text, values } = await readBody(request, body);
  if (!printers.get(printerId)) throw missing(`There is no printer ${printerId}.`);
  return json({ id: measurements.add(printerId, readBench().spoolId, tune, { text, values }) }, 201);
});
