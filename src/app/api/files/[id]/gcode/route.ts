import { Splicer, SpliceSet } from "@/core/edits/splice";
import { database } from "@/server/db/connection";
import { fileChunks, files } from "@/server/db/files";
import { fileOf } from "@/server/http/files";
import { printerFor } from "@/server/work/files";
import { attachment } from "@/server/http/download";
import { handle, refuseHarm } from "@/server/http/respond";
import { runTask } from "@/server/tasks/pool";

export const GET = handle(
  async (request, params) => {
    const file = fileOf(params);
    const stored = files.splices(file.id);
    const set = JSON.parse(stored) as SpliceSet;
    // What nobody changed goes back as it came; what was changed here must do no harm.
    if (set.splices.length > 0) {
      const input = { fileId: file.id, sizeBytes: file.sizeBytes, printer: printerFor(file), splices: stored };
      refuseHarm(await runTask("checkEdited", input, { signal: request.signal }));
    }
    const splicer = new Splicer(set);
    const chunks = fileChunks(database(), file.id);
    // One stored chunk a pull: the server does other things in between, and a slow reader holds nothing up.
    const body = new ReadableStream<Uint8Array>({
      pull(controller) {
        const next = chunks.next();
        const pieces = next.done ? splicer.end() : splicer.push(next.value);
        for (const piece of pieces) controller.enqueue(piece);
        if (next.done) controller.close();
      },
    });
    const name = set.splices.length > 0 ? file.name.replace(/(\.\w+)?$/, "-tuned$1") : file.name;
    return new Response(body, { headers: attachment(name) });
  },
  { who: "reader" },
);
