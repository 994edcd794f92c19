import { z } from "zod";
import { settingKeys } from "@/core/settings";
import { printerBody } from "@/server/http/link";
import { handle, HttpError, json, readBody } from "@/server/http/respond";
import { openLinkOf } from "@/server/link/hub";

const body = printerBody.extend({
  setting: z.enum(settingKeys, { error: "There is no such setting" }),
  value: z.number({ error: "The value must be a number" }),
});

export const POST = handle(async (request) => {
  const { printerId, setting, value } = await readBody(request, body);
  const { job } = openLinkOf(printerId);
  if (!job) throw new HttpError(409, "No job is running on this printer.");
  await job.nudge(setting, value);
  return json(job.listMarks());
});
