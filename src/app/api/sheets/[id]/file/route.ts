import { handle, json, refuseHarm } from "@/server/http/respond";
import { inputOf } from "@/server/http/sheets";
import { Refused } from "@/server/refused";
import { runTask } from "@/server/tasks/pool";
import { keepProgram } from "@/server/work/files";

/** The finished program as an opened file, for the Workshop and for jobs → 201 `{id}`. */
export const POST = handle(
  async (request, params) => {
    const { printerId, ...input } = inputOf(request, params);
    const built = await runTask("buildSheet", input, { signal: request.signal });
    if (!built.ok) throw new Refused("unreadable", built.message, { field: built.field });
    refuseHarm(built.value.findings);
    const name = `${input.sheet.name}.gcode`;
    return json({ id: await keepProgram(built.value.bytes, name, printerId, request.signal) }, 201);
  },
  { who: "bench" },
);
