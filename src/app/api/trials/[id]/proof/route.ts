import { trialOf } from "@/server/http/trials";
import { inputFor } from "@/server/work/trials";
import { handle, json } from "@/server/http/respond";
import { runTask } from "@/server/tasks/pool";

export const GET = handle(
  async (request, params) => json(await runTask("proveTrial", inputFor(trialOf(params)), { signal: request.signal })),
  { who: "reader" },
);
