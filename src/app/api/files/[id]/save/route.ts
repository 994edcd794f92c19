import { z } from "zod";
import { nameSchema } from "@/core/shelf/name";
import { readOptionalBody } from "@/server/http/body";
import { fileOf } from "@/server/http/files";
import { handle, json } from "@/server/http/respond";
import { saveEdited } from "@/server/work/files";

const saveSchema = z.object({ name: nameSchema("file", 200).optional() });

/** The file with its edits as an opened file of its own → 201 `{id}`. */
export const POST = handle(
  async (request, params) => {
    const file = fileOf(params);
    const { name = file.name.replace(/(\.\w+)?$/, "-tuned$1") } = await readOptionalBody(request, saveSchema);
    return json({ id: await saveEdited(file, name, request.signal) }, 201);
  },
  { who: "bench" },
);
