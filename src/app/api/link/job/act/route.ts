import { z } from "zod";
import { printerBody } from "@/server/http/link";
import { handle, HttpError, json, readBody } from "@/server/http/respond";
import { openLinkOf } from "@/server/link/hub";

const body = printerBody.extend({
  act: z.enum(["pause", "resume", "cancel"], { error: "The act is pause, resume or cancel" }),
});

export const POST = handle(async (request) => {
  const { printerId, act } = await readBody(request, body);
  const { job } = openLinkOf(printerId);
  if (!job?.running) throw new HttpError(409, "No job is running on this printer.");
  // What is sent then takes the printer's own time; the events tell how it goes.
  void job[act]();
  return json(job.status());
});
