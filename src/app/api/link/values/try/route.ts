import { z } from "zod";
import { printerBody } from "@/server/http/link";
import { readBody } from "@/server/http/body";
import { handle, json } from "@/server/http/respond";
import { tryValue } from "@/server/link/firmware";

const body = printerBody.extend({
  id: z.string({ error: "Say which value" }).max(60, "That is no firmware value"),
  value: z.number({ error: "The value must be a number" }),
  why: z.string().trim().max(200, "The reason is longer than 200 characters").default(""),
  confirmed: z.boolean().default(false),
});

export const POST = handle(
  async (request) => {
    const { printerId, ...change } = await readBody(request, body);
    return json(await tryValue(printerId, change));
  },
  { who: "actor" },
);
