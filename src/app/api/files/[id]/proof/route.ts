import { files } from "@/server/db/files";
import { fileOf, printerFor, storedEdits } from "@/server/http/files";
import { handle, HttpError, json } from "@/server/http/respond";
import { runTask } from "@/server/tasks/pool";

export const GET = handle(async (request, params) => {
  const file = fileOf(params);
  const proof = await runTask(
    "proveFile",
    {
      fileId: file.id,
      sizeBytes: file.sizeBytes,
      report: files.report(file.id)!,
      splices: files.splices(file.id),
      edits: storedEdits(file),
      printer: printerFor(file),
    },
    { signal: request.signal },
  );
  if (!proof.ok) throw new HttpError(409, proof.message, { field: proof.field });
  return json(proof.value);
});
