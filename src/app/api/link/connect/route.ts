import { z } from "zod";
import { waySchema } from "@/core/link/way-schema";
import { printerBody } from "@/server/http/link";
import { readBody } from "@/server/http/body";
import { handle, json } from "@/server/http/respond";
import { connect } from "@/server/link/hub";

const body = printerBody.extend({
  transport: waySchema,
  /** The address in the network is the printer's. */
  confirmed: z.boolean({ error: "confirmed is true or false" }).default(false),
});

export const POST = handle(
  async (request) => {
    const { printerId, transport, confirmed } = await readBody(request, body);
    return json((await connect(printerId, transport, confirmed)).status(), 201);
  },
  { who: "actor" },
);
