import { z } from "zod";
import { tuneAskSchema } from "@/core/measure/request-schema";
import { printerBody } from "@/server/http/link";
import { readBody } from "@/server/http/body";
import { handle, json } from "@/server/http/respond";
import { conductTune } from "@/server/link/conduct-tune";

const body = printerBody.extend(tuneAskSchema.shape).extend({
  phase: z.enum(["heat", "act", "cool"], { error: "The phase is heat, act or cool" }),
});

/** Sends the lines of one phase of a tune and waits until all are taken; answers with what came back. */
export const POST = handle(
  async (request) => {
    const { printerId, phase, ...ask } = await readBody(request, body);
    return json({ answers: await conductTune(printerId, phase, ask) });
  },
  { who: "actor" },
);
