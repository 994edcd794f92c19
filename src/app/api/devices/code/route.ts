import { z } from "zod";
import { showCode } from "@/server/front/devices";
import { rights } from "@/server/who";
import { readOptionalBody } from "@/server/http/body";
import { handle, json } from "@/server/http/respond";

const body = z.object({ may: z.enum(rights, { error: `may is one of ${rights.join(", ")}` }).default("mark") });

/** A code for one device, good for a few minutes and a few tries, with what the device may do; the one before is void. */
export const POST = handle(async (request) => json(showCode((await readOptionalBody(request, body)).may), 201), {
  who: "bench",
});
