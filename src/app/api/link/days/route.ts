import { linkEvents } from "@/server/db/link-events";
import { printerOfQuery } from "@/server/http/link";
import { handle, json } from "@/server/http/respond";
import { hub } from "@/server/link/hub";

export const GET = handle(
  (request) => {
    hub().journal.store();
    return json(linkEvents.days(printerOfQuery(request).id));
  },
  { who: "reader" },
);
