import { programName } from "@/core/trials/program-name";
import { trialOf } from "@/server/http/trials";
import { inputFor } from "@/server/work/trials";
import { attachment } from "@/server/http/download";
import { handle, refuseHarm } from "@/server/http/respond";
import { runTask } from "@/server/tasks/pool";

export const GET = handle(
  async (request, params) => {
    const trial = trialOf(params);
    const input = inputFor(trial);
    const { bytes, findings } = await runTask("buildTrial", input, { signal: request.signal });
    refuseHarm(findings);
    return new Response(bytes as BodyInit, {
      headers: attachment(programName(trial, input.printer, input.spool), bytes.length),
    });
  },
  { who: "reader" },
);
