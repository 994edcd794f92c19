import { editsSchema } from "@/core/edits";
import { fileOf } from "@/server/http/files";
import { changeEdits, currentEdits } from "@/server/work/files";
import { checked, isRecord, readChange } from "@/server/http/body";
import { handle, json } from "@/server/http/respond";

export const GET = handle(async (request, params) => json(await currentEdits(fileOf(params), request.signal)), {
  who: "reader",
});

/** The body is the list of edits, or `{version, edits}`. */
export const PUT = handle(
  async (request, params) => {
    const { body, seen } = await readChange(request);
    const edits = checked(isRecord(body) && "edits" in body ? body.edits : body, editsSchema);
    return json(await changeEdits(fileOf(params), edits, request.signal, seen));
  },
  { who: "bench" },
);
