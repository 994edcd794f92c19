import { printerOfQuery } from "@/server/http/link";
import { handle, json } from "@/server/http/respond";
import { hub } from "@/server/link/hub";

/** The temperatures of this link so far. */
export const GET = handle((request) => json(hub().links.get(printerOfQuery(request).id)?.samples ?? []), {
  who: "reader",
});
