import { readBody } from "@/server/http/body";
import { printerBody, printerOfQuery } from "@/server/http/link";
import { handle, json } from "@/server/http/respond";
import { hub, openLinkOf } from "@/server/link/hub";

/** The temperatures of this link so far. */
export const GET = handle((request) => json(hub().links.get(printerOfQuery(request).id)?.samples ?? []), {
  who: "reader",
});

/** Somebody looks at the heats: the printer is asked for them once, if they are old. */
export const POST = handle(
  async (request) => {
    const link = openLinkOf((await readBody(request, printerBody)).printerId);
    link.lookAtHeat();
    return json({}, 202);
  },
  { who: "reader" },
);
