import { files } from "@/server/db/files";
import { editInput, fileOf, storedEdits } from "@/server/http/files";
import { handle, HttpError, json } from "@/server/http/respond";
import { runTask } from "@/server/tasks/pool";

export const GET = handle(async (request, params) => {
  const file = fileOf(params);
  const input = await editInput(file, storedEdits(file), request.signal);
  const proof = await runTask("proveFile", { ...input, splices: files.splices(file.id) }, { signal: request.signal });
  if (!proof.ok) throw new HttpError(409, proof.message, { field: proof.field });
  return json(proof.value);
});
