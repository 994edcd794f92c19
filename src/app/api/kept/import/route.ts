import { bundleSchema } from "@/core/values/bundle-schema";
import { readBody } from "@/server/http/body";
import { handle, json } from "@/server/http/respond";
import { importBundle } from "@/server/work/values";

/** Reads everything of another bench in (docs/values.md), all of it or nothing; says what was new. */
export const POST = handle(async (request) => json(importBundle(await readBody(request, bundleSchema)), 201), {
  who: "bench",
});
