import { splicedChunks } from "@/core/edits/splices/splicer";
import { database } from "@/server/db/connection";
import { splicesOfResult } from "@/server/db/edit-blocks";
import { holdResult } from "@/server/db/edit-results";
import { fileChunks } from "@/server/db/files";
import { fileOf } from "@/server/http/files";
import { printerFor } from "@/server/work/files";
import { attachment } from "@/server/http/download";
import { handle, refuseHarm } from "@/server/http/respond";
import { runTask } from "@/server/tasks/pool";

export const GET = handle(
  async (request, params) => {
    const file = fileOf(params);
    const { id: fileId, sizeBytes, editResultId: resultId } = file;
    const letGo = holdResult(resultId);
    // What nobody changed goes back as it came; what was changed here must do no harm.
    if (resultId !== null) {
      const input = { fileId, sizeBytes, printer: printerFor(file), resultId };
      try {
        refuseHarm(await runTask("checkEdited", input, { signal: request.signal }));
      } catch (error) {
        letGo();
        throw error;
      }
    }
    const chunks = splicedChunks(fileChunks(database(), fileId), splicesOfResult(database(), resultId));
    // One piece a pull: the server does other things in between, and a slow reader holds nothing up.
    const body = new ReadableStream<Uint8Array>({
      pull(controller) {
        try {
          const next = chunks.next();
          if (!next.done) return controller.enqueue(next.value);
          controller.close();
        } catch (error) {
          controller.error(error);
        }
        letGo();
      },
      cancel: letGo,
    });
    const name = resultId !== null ? file.name.replace(/(\.\w+)?$/, "-tuned$1") : file.name;
    return new Response(body, { headers: attachment(name) });
  },
  { who: "reader" },
);
