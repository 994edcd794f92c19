import { z } from "zod";
import { trialKindKeys } from "@/core/trials";
import { settingKeys } from "@/core/settings";
import { weightsSchema } from "@/core/reading/reading-schema";
import { readBody } from "@/server/http/body";
import { handle, json } from "@/server/http/respond";
import { trialOf } from "@/server/http/trials";
import { weightsIn } from "@/server/http/weights";
import { Refused } from "@/server/refused";
import { addNextRound, foreseenRound, runOf } from "@/server/work/runs";
import { withBands } from "@/server/work/trials";

const nextSchema = z.object({
  runId: z.int({ error: "Say from which run: runId" }).positive("runId is above 0"),
  weights: weightsSchema.default({}),
  /** Another kind to go on in; the same one if left out. */
  kind: z.enum(trialKindKeys, { error: `The kind is one of ${trialKindKeys.join(", ")}` }).optional(),
  /** Which of a matrix's two settings a tower asks for; the one that stood side by side if left out. */
  setting: z.enum(settingKeys, { error: `The setting is one of ${settingKeys.join(", ")}` }).optional(),
});

/** What the next round would try, narrow and take: ?runId=1&weights={…} */
export const GET = handle(
  async (request, params) => {
    const trial = trialOf(params);
    const { searchParams } = new URL(request.url);
    const runId = Number(searchParams.get("runId"));
    if (!Number.isInteger(runId) || runId < 1)
      throw new Refused("invalid", "Say from which run: runId", { field: "runId" });
    const run = runOf(runId);
    if (run.trialId !== trial.id)
      throw new Refused("invalid", `Run ${run.id} is not one of this trial.`, { field: "runId" });
    return json(await foreseenRound(trial, run, weightsIn(request)));
  },
  { who: "reader" },
);

/** The next round of a question, from what was read of a run. */
export const POST = handle(
  async (request, params) => {
    const trial = trialOf(params);
    const { runId, ...options } = await readBody(request, nextSchema);
    return json(withBands(await addNextRound(trial, runOf(runId), options, request.signal)), 201);
  },
  { who: "bench" },
);
