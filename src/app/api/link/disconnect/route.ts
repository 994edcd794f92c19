import { printerBody } from "@/server/http/link";
import { handle, HttpError, json, readBody } from "@/server/http/respond";
import { linkOf } from "@/server/link/hub";

export const POST = handle(async (request) => {
  const link = linkOf((await readBody(request, printerBody)).printerId);
  if (link.job?.running && link.session.state === "open") {
    throw new HttpError(409, "A job is running. Cancel it before you close the link.");
  }
  await link.close();
  return json(link.status());
});
