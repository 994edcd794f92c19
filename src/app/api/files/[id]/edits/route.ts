import { editsSchema } from "@/core/edits";
import { fileOf } from "@/server/http/files";
import { changeEdits, editInput, storedEdits } from "@/server/work/files";
import { checked, isRecord, readChange } from "@/server/http/body";
import { handle, json } from "@/server/http/respond";
import { runTask } from "@/server/tasks/pool";
import { Refused } from "@/server/refused";

export const GET = handle(async (request, params) => {
  const file = fileOf(params);
  const input = await editInput(file, storedEdits(file), request.signal);
  const applied = await runTask("applyEdits", input, { signal: request.signal });
  if (!applied.ok) throw new Refused("conflict", applied.message, { field: applied.field });
  const { splices: _splices, ...answer } = applied.value;
  return json({ ...answer, stack: input.edits, version: file.version });
});

/** The body is the list of edits, or `{version, edits}`. */
export const PUT = handle(async (request, params) => {
  const { body, seen } = await readChange(request);
  const edits = checked(isRecord(body) && "edits" in body ? body.edits : body, editsSchema);
  return json(await changeEdits(fileOf(params), edits, request.signal, seen));
});
