import { z } from "zod";
import { printerBody } from "@/server/http/link";
import { readBody } from "@/server/http/body";
import { handle, json } from "@/server/http/respond";
import { sendBack } from "@/server/link/firmware";

const body = printerBody.extend({ snapshotId: z.int({ error: "Say which reading" }) });

export const POST = handle(
  async (request) => {
    const { printerId, snapshotId } = await readBody(request, body);
    return json(await sendBack(printerId, snapshotId));
  },
  { who: "actor" },
);
