import { printerBody } from "@/server/http/link";
import { handle, json, readBody } from "@/server/http/respond";
import { connect, transportSchema } from "@/server/link/hub";

const body = printerBody.extend({ transport: transportSchema });

export const POST = handle(async (request) => {
  const { printerId, transport } = await readBody(request, body);
  return json((await connect(printerId, transport)).status(), 201);
});
