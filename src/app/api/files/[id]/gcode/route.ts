import { Splice, Splicer } from "@/core/edits/splice";
import { database } from "@/server/db/connection";
import { fileChunks, files } from "@/server/db/files";
import { fileOf } from "@/server/http/files";
import { attachment, handle } from "@/server/http/respond";

export const GET = handle((_, params) => {
  const file = fileOf(params);
  const splices = JSON.parse(files.splices(file.id)) as Splice[];
  const splicer = new Splicer(splices);
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
  const name = splices.length > 0 ? file.name.replace(/(\.\w+)?$/, "-tuned$1") : file.name;
  return new Response(body, { headers: attachment(name) });
});
