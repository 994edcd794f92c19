import { z } from "zod";
import { jobs } from "@/server/db/jobs";
import { runs } from "@/server/db/runs";
import { readOptionalBody } from "@/server/http/body";
import { handle, json } from "@/server/http/respond";
import { trialOf } from "@/server/http/trials";
import { missing, Refused } from "@/server/refused";
import { feedShareOf } from "@/server/link/hub";
import { addRun, sentRun } from "@/server/work/runs";

const newRunSchema = z.object({
  printedAt: z.iso
    .datetime({ error: "Say when it was printed as a date and time, like 2026-03-01T10:00:00Z" })
    .optional(),
  note: z.string({ error: "A note is text" }).max(2000, "The note is longer than 2000 characters").optional(),
  jobId: z.int({ error: "jobId is a whole number" }).positive("jobId is above 0").optional(),
});

/** The pieces of a trial, newest first. */
export const GET = handle((_, params) => json(runs.ofTrial(trialOf(params).id).map(sentRun)), { who: "reader" });

/** “I printed it”, or the piece of a job. */
export const POST = handle(
  async (request, params) => {
    const trial = trialOf(params);
    const { jobId, ...about } = await readOptionalBody(request, newRunSchema);
    if (jobId === undefined) {
      const feedShare = feedShareOf(trial.printerId, trial.tool);
      return json(sentRun(await addRun(trial, about, feedShare, request.signal)), 201);
    }
    const job = jobs.get(jobId);
    if (!job) throw missing(`There is no job ${jobId}.`);
    if (job.source !== "trial" || job.sourceId !== trial.id) {
      throw new Refused("invalid", `Job ${jobId} did not print this trial.`, { field: "jobId" });
    }
    const run = runs.ofJob(jobId);
    if (!run)
      throw new Refused("conflict", `Job ${jobId} is still running, or nothing of it was laid.`, { field: "jobId" });
    // One that was removed comes back.
    return json(sentRun(runs.get(run.id) ?? runs.restore(run.id)!), 201);
  },
  { who: "marker" },
);
