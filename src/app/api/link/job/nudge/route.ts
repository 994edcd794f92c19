import { z } from "zod";
import { settingKeys } from "@/core/settings";
import { printerBody } from "@/server/http/link";
import { readBody } from "@/server/http/body";
import { handle, json } from "@/server/http/respond";
import { openLinkOf } from "@/server/link/hub";
import { Refused } from "@/server/refused";

const body = printerBody.extend({
  setting: z.enum(settingKeys, { error: "There is no such setting" }),
  value: z.number({ error: "The value must be a number" }),
});

export const POST = handle(
  async (request) => {
    const { printerId, setting, value } = await readBody(request, body);
    const { job } = openLinkOf(printerId);
    if (!job) throw new Refused("conflict", "No job is running on this printer.");
    job.nudge(setting, value);
    return json(job.listMarks());
  },
  { who: "actor" },
);
