import { z } from "zod";
import { printerBody } from "@/server/http/link";
import { readBody } from "@/server/http/body";
import { handle, json } from "@/server/http/respond";
import { putBack } from "@/server/link/firmware";

const body = printerBody.extend({ changeId: z.int({ error: "Say which change" }) });

export const POST = handle(
  async (request) => {
    const { printerId, changeId } = await readBody(request, body);
    return json(await putBack(printerId, changeId));
  },
  { who: "actor" },
);
