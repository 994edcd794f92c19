import { z } from "zod";
import { waySchema } from "@/core/link/way-schema";
import { readBody } from "@/server/http/body";
import { handle, json } from "@/server/http/respond";
import { askPrinter } from "@/server/link/ask-printer";

const body = z.object({
  transport: waySchema,
  /** The address in the network is a printer's. */
  confirmed: z.boolean({ error: "confirmed is true or false" }).default(false),
});

export const POST = handle(
  async (request) => {
    const { transport, confirmed } = await readBody(request, body);
    return json(await askPrinter(transport, confirmed));
  },
  { who: "actor" },
);
