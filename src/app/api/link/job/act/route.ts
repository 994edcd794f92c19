import { z } from "zod";
import { printerBody } from "@/server/http/link";
import { readBody } from "@/server/http/body";
import { handle, json } from "@/server/http/respond";
import { log } from "@/server/log";
import { openLinkOf } from "@/server/link/hub";
import { Refused } from "@/server/refused";

const body = printerBody.extend({
  act: z.enum(["pause", "resume", "cancel"], { error: "The act is pause, resume or cancel" }),
});

export const POST = handle(
  async (request) => {
    const { printerId, act } = await readBody(request, body);
    const { job, preparing } = openLinkOf(printerId);
    if (act === "cancel" && preparing && preparing.failed === null) {
      preparing.stop.abort();
      return json(null);
    }
    if (!job?.running) throw new Refused("conflict", "No job is running on this printer.");
    // What is sent then takes the printer's own time; the events tell how it goes.
    job[act]().catch((error: unknown) => log().error({ err: error, act }, "a job did not do as told"));
    return json(job.status());
  },
  { who: "actor" },
);
