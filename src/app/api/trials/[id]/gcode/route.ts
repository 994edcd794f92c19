import { inputFor, trialOf } from "@/server/http/trials";
import { attachment, handle, HttpError } from "@/server/http/respond";
import { runTask } from "@/server/tasks/pool";

export const GET = handle(async (request, params) => {
  const trial = trialOf(params);
  const { bytes, findings } = await runTask("buildTrial", inputFor(trial), { signal: request.signal });
  const stops = findings.filter(({ severity }) => severity === "stop");
  if (stops.length > 0) {
    throw new HttpError(422, `This file would do harm, so it is not handed out. ${stops[0].message}`, {
      findings: stops,
    });
  }
  return new Response(bytes as BodyInit, { headers: attachment(`${trial.name}.gcode`, bytes.length) });
});
