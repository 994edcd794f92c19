import { editsSchema } from "@/core/edits";
import { changeEdits, editInput, fileOf, storedEdits } from "@/server/http/files";
import { handle, HttpError, json, readBody } from "@/server/http/respond";
import { runTask } from "@/server/tasks/pool";

export const GET = handle(async (request, params) => {
  const file = fileOf(params);
  const input = await editInput(file, storedEdits(file), request.signal);
  const applied = await runTask("applyEdits", input, { signal: request.signal });
  if (!applied.ok) throw new HttpError(409, applied.message, { field: applied.field });
  const { splices: _splices, ...answer } = applied.value;
  return json({ ...answer, stack: input.edits });
});

export const PUT = handle(async (request, params) =>
  json(await changeEdits(fileOf(params), await readBody(request, editsSchema), request.signal)),
);
