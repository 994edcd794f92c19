import { z } from "zod";
import { nameSchema } from "@/core/shelf/name";
import { readBody } from "@/server/http/body";
import { handle, json, pathId } from "@/server/http/respond";
import { MOST_TEXT_LETTERS, rewriteProgram, writtenProgram } from "@/server/work/programs";

const body = z.object({
  name: nameSchema("program", 200).optional(),
  text: z.string().max(MOST_TEXT_LETTERS, "A program written here has at most 2 million characters").optional(),
  version: z.int().optional(),
});

export const GET = handle((_, params) => json(writtenProgram(pathId(params, "program"))), { who: "reader" });

/** Another name or text of a program written here; with `version` refused if somebody else has changed it. */
export const PUT = handle(
  async (request, params) =>
    json(await rewriteProgram(pathId(params, "program"), await readBody(request, body), request.signal)),
  { who: "bench" },
);
