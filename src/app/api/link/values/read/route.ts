import { printerBody } from "@/server/http/link";
import { readBody } from "@/server/http/body";
import { handle, json } from "@/server/http/respond";
import { readFirmware } from "@/server/link/firmware";

export const POST = handle(
  async (request) => json(await readFirmware((await readBody(request, printerBody)).printerId)),
  { who: "actor" },
);
