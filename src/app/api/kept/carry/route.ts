import { z } from "zod";
import { settingKeys } from "@/core/settings";
import { readBody } from "@/server/http/body";
import { handle, json } from "@/server/http/respond";
import { carryOver } from "@/server/work/values";

const id = (what: string) => z.int({ error: `${what} is a whole number` }).positive(`${what} is above 0`);
const pair = z.object({ printerId: id("printerId"), spoolId: id("spoolId") });

const carrySchema = pair.extend({
  from: pair,
  /** All that the other pair has none of, if left out. */
  settings: z.array(z.enum(settingKeys, { error: `A setting is one of ${settingKeys.join(", ")}` })).optional(),
});

/** Takes values over to another pair, as a start that was not tried there. */
export const POST = handle(
  async (request) => {
    const { from, settings, ...to } = await readBody(request, carrySchema);
    return json(carryOver(from, to, settings), 201);
  },
  { who: "bench" },
);
