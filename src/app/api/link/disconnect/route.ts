import { printerBody } from "@/server/http/link";
import { readBody } from "@/server/http/body";
import { handle, json } from "@/server/http/respond";
import { linkOf } from "@/server/link/hub";
import { Refused } from "@/server/refused";

export const POST = handle(
  async (request) => {
    const link = linkOf((await readBody(request, printerBody)).printerId);
    if (link.job?.running && link.session.state === "open") {
      throw new Refused("conflict", "A job is running. Cancel it before you close the link.");
    }
    await link.close();
    return json(link.status());
  },
  { who: "actor" },
);
