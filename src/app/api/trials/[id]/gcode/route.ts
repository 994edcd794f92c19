import { inputFor, trialOf } from "@/server/http/trials";
import { attachment, handle, refuseHarm } from "@/server/http/respond";
import { runTask } from "@/server/tasks/pool";

export const GET = handle(async (request, params) => {
  const trial = trialOf(params);
  const { bytes, findings } = await runTask("buildTrial", inputFor(trial), { signal: request.signal });
  refuseHarm(findings);
  return new Response(bytes as BodyInit, { headers: attachment(`${trial.name}.gcode`, bytes.length) });
});
