import { printerBody } from "@/server/http/link";
import { readBody } from "@/server/http/body";
import { handle, json } from "@/server/http/respond";
import { saveValues } from "@/server/link/firmware";

export const POST = handle(
  async (request) => json(await saveValues((await readBody(request, printerBody)).printerId)),
  { who: "actor" },
);
