import { z } from "zod";
import { readBench, writeBench } from "@/server/db/bench";
import { roadFor } from "@/server/work/pages";
import { checkPair } from "@/server/work/trials";
import { checked, readChange } from "@/server/http/body";
import { handle, json } from "@/server/http/respond";

const schema = z.object({ printerId: z.int().positive().optional(), spoolId: z.int().positive().optional() });

/** What lies on the bench, and its road: everything that can be found out for the pair, in the order of work. */
export const GET = handle(
  () => {
    const bench = readBench();
    const { printerId, spoolId } = bench;
    return json({ ...bench, road: printerId !== null && spoolId !== null ? roadFor(printerId, spoolId) : [] });
  },
  { who: "reader" },
);

export const PUT = handle(
  async (request) => {
    const { body, seen } = await readChange(request);
    const wanted = checked(body, schema);
    const { printerId, spoolId } = { ...readBench(), ...wanted };
    if (printerId !== null && spoolId !== null) checkPair(printerId, spoolId);
    return json(writeBench(wanted, seen));
  },
  { who: "actor" },
);
