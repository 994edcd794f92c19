import { z } from "zod";
import { nameSchema } from "@/core/shelf/name";
import { readBody } from "@/server/http/body";
import { handle, json } from "@/server/http/respond";
import { MOST_TEXT_LETTERS, writeProgram } from "@/server/work/programs";

const body = z.object({
  name: nameSchema("program", 200),
  text: z
    .string({ error: "The program's text is missing" })
    .max(MOST_TEXT_LETTERS, "A program written here has at most 2 million characters"),
});

/** Keeps a program written here → 201 `{id}`. */
export const POST = handle(
  async (request) => {
    const { name, text } = await readBody(request, body);
    return json({ id: await writeProgram(name, text, request.signal) }, 201);
  },
  { who: "bench" },
);
