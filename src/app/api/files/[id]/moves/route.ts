import { fileOf } from "@/server/http/files";
import { handle } from "@/server/http/respond";
import { isEditedAsked, wholeOf } from "@/server/http/window";
import { lookKey } from "@/server/tasks/look-key";
import { runTask } from "@/server/tasks/pool";
import { lookInput, printerFor } from "@/server/work/files";

/** Moves for a viewer, packed (see `core/laid/picture`): ?fromLayer=3&layers=1&edited=1; all of them without `layers`. */
export const GET = handle(
  async (request, params) => {
    const file = fileOf(params);
    const fromLayer = wholeOf(request, "fromLayer", { low: 0, high: 1e6, otherwise: 0 });
    const count = wholeOf(request, "layers", { low: 1, high: 1e6, otherwise: 0 });
    const input = { ...lookInput(file, isEditedAsked(request)), printer: printerFor(file), fromLayer, count };
    const bytes = await runTask("fileMoves", input, { signal: request.signal, holds: lookKey(input, input.printer) });
    return new Response(bytes as Uint8Array<ArrayBuffer>, {
      headers: { "Content-Type": "application/octet-stream", "Cache-Control": "no-store" },
    });
  },
  { who: "reader" },
);
