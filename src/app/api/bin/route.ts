import { bin } from "@/server/db/bin";
import { handle, json } from "@/server/http/respond";

/** What was removed in the last 30 days and can be put back, newest first: ?search=tower */
export const GET = handle((request) => json(bin.list(new URL(request.url).searchParams.get("search") ?? "")), {
  who: "reader",
});

/** Empties it: everything in it is thrown away for good. */
export const DELETE = handle(() => json({ count: bin.empty() }), { who: "bench" });
