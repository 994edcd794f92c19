import { handle, json } from "@/server/http/respond";
import { inputOf } from "@/server/http/sheets";
import { Refused } from "@/server/refused";
import { runTask } from "@/server/tasks/pool";

export const GET = handle(
  async (request, params) => {
    const built = await runTask("reportSheet", inputOf(request, params), { signal: request.signal });
    if (!built.ok) throw new Refused("unreadable", built.message, { field: built.field });
    return json(built.value.report);
  },
  { who: "reader" },
);
