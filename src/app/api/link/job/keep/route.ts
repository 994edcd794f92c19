import { z } from "zod";
import { readBody } from "@/server/http/body";
import { handle, json } from "@/server/http/respond";
import { keepMarks } from "@/server/link/keep-marks";

const body = z.object({ jobId: z.int({ error: "Say which job" }) });

/** Keeps what was nudged in a job as a trial, or as an edit of the file it printed. */
export const POST = handle(
  async (request) => json(await keepMarks((await readBody(request, body)).jobId, request.signal), 201),
  { who: "actor" },
);
