import { z } from "zod";
import { nameSchema } from "@/core/shelf/name";
import { snippets } from "@/server/db/snippets";
import { lineSchema } from "@/server/http/link";
import { readBody } from "@/server/http/body";
import { handle, json } from "@/server/http/respond";

const body = z.object({
  name: nameSchema("snippet", 60),
  lines: z
    .array(lineSchema, { error: "Give a list of lines" })
    .min(1, "Give at least one line")
    .max(200, "At most 200 lines"),
});

export const GET = handle(() => json(snippets.list()), { who: "reader" });

export const POST = handle(async (request) => json(snippets.add(await readBody(request, body)), 201), { who: "actor" });
