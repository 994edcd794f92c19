import { z } from "zod";
import { readBench, writeBench } from "@/server/db/bench";
import { checkPair } from "@/server/work/trials";
import { checked, readChange } from "@/server/http/body";
import { handle, json } from "@/server/http/respond";

const schema = z.object({ printerId: z.int().positive().optional(), spoolId: z.int().positive().optional() });

export const GET = handle(() => json(readBench()));

export const PUT = handle(async (request) => {
  const { body, seen } = await readChange(request);
  const wanted = checked(body, schema);
  const { printerId, spoolId } = { ...readBench(), ...wanted };
  if (printerId !== null && spoolId !== null) checkPair(printerId, spoolId);
  return json(writeBench(wanted, seen));
});
