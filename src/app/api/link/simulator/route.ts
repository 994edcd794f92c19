import { z } from "zod";
import { printers } from "@/server/db/printers";
import { printerBody } from "@/server/http/link";
import { readBody } from "@/server/http/body";
import { handle, json } from "@/server/http/respond";
import { hub, simulatorOf } from "@/server/link/hub";
import { missing } from "@/server/refused";

const body = z.discriminatedUnion(
  "act",
  [
    printerBody.extend({ act: z.literal("power-cycle") }),
    printerBody.extend({ act: z.literal("pull-cable") }),
    printerBody.extend({
      act: z.literal("rate"),
      rate: z.number({ error: "The rate is a number" }).min(1, "At least 1 ×").max(500, "At most 500 ×"),
    }),
  ],
  { error: "The act is power-cycle, pull-cable or rate" },
);

/** What hands would do at a real printer. */
export const POST = handle(
  async (request) => {
    const act = await readBody(request, body);
    const printer = printers.get(act.printerId);
    if (!printer) throw missing(`There is no printer ${act.printerId}.`);
    const host = simulatorOf(printer);
    if (act.act === "power-cycle") host.powerCycle();
    else if (act.act === "pull-cable") host.pull();
    else host.setRate(act.rate);
    hub().links.get(printer.id)?.changed();
    return json({ rate: host.rate });
  },
  { who: "actor" },
);
