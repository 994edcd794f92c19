import { printerBody } from "@/server/http/link";
import { handle, json, readBody } from "@/server/http/respond";
import { saveValues } from "@/server/link/firmware";

export const POST = handle(async (request) => json(await saveValues((await readBody(request, printerBody)).printerId)));
