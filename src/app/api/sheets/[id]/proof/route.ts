import { handle, json } from "@/server/http/respond";
import { inputOf } from "@/server/http/sheets";
import { Refused } from "@/server/refused";
import { runTask } from "@/server/tasks/pool";

/** What the finished program really commands, layer by layer, read back from its own text. */
export const GET = handle(
  async (request, params) => {
    const built = await runTask("reportSheet", inputOf(request, params), { signal: request.signal });
    if (!built.ok) throw new Refused("unreadable", built.message, { field: built.field });
    const { layers, findings, passed } = built.value;
    return json({ layers, findings, passed });
  },
  { who: "reader" },
);
