import { z } from "zod";
import { hub } from "@/server/link/hub";
import { printerBody, printerOfQuery } from "@/server/http/link";
import { readBody } from "@/server/http/body";
import { handle, json } from "@/server/http/respond";
import { startJob } from "@/server/link/start-job";
import { Refused } from "@/server/refused";

const body = printerBody.extend({
  trialId: z.int({ error: "trialId is a whole number" }).optional(),
  fileId: z.int({ error: "fileId is a whole number" }).optional(),
});

/** The job of this link with its log, or null. */
export const GET = handle(
  (request) => {
    const job = hub().links.get(printerOfQuery(request).id)?.job;
    return json(
      job
        ? { status: job.status(), trial: job.trial, log: job.program.log, samples: job.samples, marks: job.listMarks() }
        : null,
    );
  },
  { who: "reader" },
);

export const POST = handle(
  async (request) => {
    const { printerId, trialId, fileId } = await readBody(request, body);
    if ((trialId === undefined) === (fileId === undefined)) {
      throw new Refused("invalid", "Say what to send: a trialId or a fileId.", { field: "trialId" });
    }
    const job = await startJob(printerId, trialId === undefined ? { fileId: fileId! } : { trialId });
    return json(job.status(), 201);
  },
  { who: "actor" },
);
