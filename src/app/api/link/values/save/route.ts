import { z } from "zod";
import { RANK_HEADER, rankIn, refuseRank } from "@/server/who";
import { printerBody } from "@/server/http/link";
import { readBody } from "@/server/http/body";
import { handle, json } from "@/server/http/respond";
import { saveValues } from "@/server/link/firmware";
import { Refused } from "@/server/refused";

const body = printerBody.extend({
  /** Strays that are to be stored all the same. */
  keep: z.array(z.string().max(60), { error: "keep is a list of values, by id" }).max(200).default([]),
  /** The record on the shelf takes the stored figures over. */
  takeOver: z.boolean({ error: "takeOver is true or false" }).default(false),
});

/** Saves what was meant, loads it again, and compares value by value. */
export const POST = handle(
  async (request) => {
    const { printerId, ...how } = await readBody(request, body);
    // A record of the shelf is the bench's to change.
    const refusal = how.takeOver ? refuseRank(rankIn(request.headers.get(RANK_HEADER)), "bench") : null;
    if (refusal) throw new Refused("stranger", refusal, { field: "takeOver" });
    return json(await saveValues(printerId, how));
  },
  { who: "actor" },
);
