import { z } from "zod";
import { nameSchema } from "@/core/shelf/name";
import { readBody } from "@/server/http/body";
import { fileOf } from "@/server/http/files";
import { handle, json } from "@/server/http/respond";
import { mergedFile } from "@/server/work/files";

const tool = z.int({ error: "A tool is a whole number" }).min(0, "Tools count from 0").max(7, "At most 8 tools");
const body = z.object({
  with: z.int({ error: "Say which other file, by its number" }).min(1, "Say which other file, by its number"),
  tools: z.tuple([tool, tool], { error: "Say which tool lays each file: two numbers" }).default([0, 1]),
  idleBelowC: z.number().min(0, "0 °C at least").max(150, "At most 150 °C").default(30),
  park: z.object({ x: z.number().min(-1000).max(1000), y: z.number().min(-1000).max(1000) }).optional(),
  name: nameSchema("file", 200).optional(),
});

/** This file and another as one print, each on a tool of its own → 201 `{id}`. */
export const POST = handle(
  async (request, params) => {
    const file = fileOf(params);
    return json({ id: await mergedFile(file, await readBody(request, body), request.signal) }, 201);
  },
  { who: "bench" },
);
