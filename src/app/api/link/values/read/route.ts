import { printerBody } from "@/server/http/link";
import { handle, json, readBody } from "@/server/http/respond";
import { readFirmware } from "@/server/link/firmware";

export const POST = handle(async (request) =>
  json(await readFirmware((await readBody(request, printerBody)).printerId)),
);
