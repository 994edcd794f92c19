import { z } from "zod";
import { settingKeys } from "@/core/settings";
import { settingValuesSchema } from "@/core/settings/values-schema";
import { plainText } from "@/core/shelf/name";
import { kept } from "@/server/db/kept";
import { readBody } from "@/server/http/body";
import { handle, json } from "@/server/http/respond";
import { foundWith } from "@/server/work/values";
import { checkPair } from "@/server/work/trials";
import { Refused } from "@/server/refused";

const idSchema = (what: string) => z.int({ error: `${what} is a whole number` }).positive(`${what} is above 0`);

const whichSetting = `The setting is one of ${settingKeys.join(", ")}`;
const whatValue = "The value must be a number";

const keptSchema = z
  .object({
    printerId: idSchema("printerId"),
    spoolId: idSchema("spoolId"),
    setting: z.enum(settingKeys, { error: whichSetting }).optional(),
    value: z.number({ error: whatValue }).optional(),
    /** Several settings that were tried together. */
    settings: z.record(z.string(), z.unknown()).optional(),
    trialId: idSchema("trialId").nullable().default(null),
    /** What cannot be told from it, and the piece it was read from. */
    fromValue: z.number({ error: whatValue }).nullish(),
    toValue: z.number({ error: whatValue }).nullish(),
    runId: idSchema("runId").nullish(),
    note: plainText("The note", 2000).default(""),
  })
  .superRefine(({ setting, value, settings }, context) => {
    if (settings !== undefined) return;
    if (setting === undefined) context.addIssue({ code: "custom", path: ["setting"], message: whichSetting });
    else if (value === undefined) context.addIssue({ code: "custom", path: ["value"], message: whatValue });
  });

/** What is kept for a pair; of all pairs if none is named. */
export const GET = handle(
  (request) => {
    const { searchParams } = new URL(request.url);
    if (!searchParams.has("printerId") && !searchParams.has("spoolId")) return json(kept.all());
    const printerId = Number(searchParams.get("printerId"));
    const spoolId = Number(searchParams.get("spoolId"));
    if (!Number.isInteger(printerId) || !Number.isInteger(spoolId)) {
      throw new Refused("invalid", "Say for which pair: /api/kept?printerId=1&spoolId=1");
    }
    return json(kept.list(printerId, spoolId));
  },
  { who: "reader" },
);

/** Keeps one value, or all of several together: either every one of them is kept, or none. */
export const POST = handle(
  async (request) => {
    const { setting, value, settings, fromValue, toValue, ...about } = await readBody(request, keptSchema);
    checkPair(about.printerId, about.spoolId);
    const checked = settingValuesSchema.safeParse({
      ...settings,
      ...(setting !== undefined && value !== undefined ? { [setting]: value } : {}),
    });
    if (!checked.success) {
      throw new Refused("invalid", checked.error.issues[0]?.message ?? "A setting cannot be that.", { field: "value" });
    }
    const found = { ...about, ...foundWith(about.printerId, about) };
    // What cannot be told apart is said of the value that was read, not of what was tried along with it.
    const added = kept.addAll(checked.data, found, setting && { setting, fromValue, toValue });
    return json(settings === undefined ? added[0] : added, 201);
  },
  { who: "bench" },
);
