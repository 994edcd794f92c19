import { attachment } from "@/server/http/download";
import { handle, refuseHarm } from "@/server/http/respond";
import { inputOf } from "@/server/http/sheets";
import { Refused } from "@/server/refused";
import { runTask } from "@/server/tasks/pool";

/** The finished program: ?printerId=1&spoolId=1, the bench's where they are left out. */
export const GET = handle(
  async (request, params) => {
    const input = inputOf(request, params);
    const built = await runTask("buildSheet", input, { signal: request.signal });
    if (!built.ok) throw new Refused("unreadable", built.message, { field: built.field });
    const { bytes, findings } = built.value;
    refuseHarm(findings);
    return new Response(bytes as BodyInit, { headers: attachment(`${input.sheet.name}.gcode`, bytes.length) });
  },
  { who: "reader" },
);
