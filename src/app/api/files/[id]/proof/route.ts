import { fileOf } from "@/server/http/files";
import { editInput, storedEdits } from "@/server/work/files";
import { handle, json } from "@/server/http/respond";
import { runTask } from "@/server/tasks/pool";
import { Refused } from "@/server/refused";

export const GET = handle(
  async (request, params) => {
    const file = fileOf(params);
    const input = await editInput(file, storedEdits(file), request.signal);
    const proof = await runTask("proveFile", { ...input, resultId: file.editResultId }, { signal: request.signal });
    if (!proof.ok) throw new Refused("conflict", proof.message, { field: proof.field });
    return json(proof.value);
  },
  { who: "reader" },
);
