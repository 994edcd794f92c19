import { z } from "zod";
import { readBench, writeBench } from "@/server/db/bench";
import { checkPair } from "@/server/http/trials";
import { handle, json, readBody } from "@/server/http/respond";

const schema = z.object({ printerId: z.int().positive().optional(), spoolId: z.int().positive().optional() });

export const GET = handle(() => json(readBench()));

export const PUT = handle(async (request) => {
  const wanted = await readBody(request, schema);
  const { printerId, spoolId } = { ...readBench(), ...wanted };
  if (printerId !== null && spoolId !== null) checkPair(printerId, spoolId);
  return json(writeBench(wanted));
});
