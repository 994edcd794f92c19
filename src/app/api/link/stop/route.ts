import { printerBody } from "@/server/http/link";
import { readBody } from "@/server/http/body";
import { handle, json } from "@/server/http/respond";
import { openLinkOf } from "@/server/link/hub";

/** Emergency stop: past every queue. */
export const POST = handle(
  async (request) => {
    const link = openLinkOf((await readBody(request, printerBody)).printerId);
    link.session.emergencyStop();
    return json(link.status());
  },
  { who: "reader" },
);
