import { z } from "zod";
import { editsSchema } from "@/core/edits";
import { nameSchema } from "@/core/shelf/name";
import { editSets } from "@/server/db/edit-sets";
import { readBody } from "@/server/http/body";
import { handle, json } from "@/server/http/respond";

const body = z.object({
  name: nameSchema("set of edits", 100),
  edits: editsSchema.refine((edits) => edits.length > 0, { message: "A set holds one edit at least" }),
});

export const GET = handle(() => json(editSets.list()), { who: "reader" });

/** Keeps a stack of edits under a name → 201 with its id. */
export const POST = handle(
  async (request) => {
    const { name, edits } = await readBody(request, body);
    return json(editSets.add(name, edits), 201);
  },
  { who: "bench" },
);
