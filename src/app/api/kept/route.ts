import { z } from "zod";
import { settingFor, settingKeys, settingValuesSchema } from "@/core/settings";
import { kept } from "@/server/db/kept";
import { readBody } from "@/server/http/body";
import { handle, json } from "@/server/http/respond";
import { checkPair } from "@/server/work/trials";
import { Refused } from "@/server/refused";

const idSchema = (what: string) => z.int({ error: `${what} is a whole number` }).positive(`${what} is above 0`);

const keptSchema = z.object({
  printerId: idSchema("printerId"),
  spoolId: idSchema("spoolId"),
  setting: z.enum(settingKeys, { error: `The setting is one of ${settingKeys.join(", ")}` }),
  value: z.number({ error: "The value must be a number" }),
  trialId: idSchema("trialId").nullable().default(null),
});

export const GET = handle((request) => {
  const { searchParams } = new URL(request.url);
  const printerId = Number(searchParams.get("printerId"));
  const spoolId = Number(searchParams.get("spoolId"));
  if (!Number.isInteger(printerId) || !Number.isInteger(spoolId)) {
    throw new Refused("invalid", "Say for which pair: /api/kept?printerId=1&spoolId=1");
  }
  return json(kept.list(printerId, spoolId));
});

export const POST = handle(async (request) => {
  const wanted = await readBody(request, keptSchema);
  checkPair(wanted.printerId, wanted.spoolId);
  const checked = settingValuesSchema.safeParse({ [wanted.setting]: wanted.value });
  if (!checked.success) {
    const { label } = settingFor(wanted.setting);
    throw new Refused("invalid", checked.error.issues[0]?.message ?? `${label} cannot be that.`, { field: "value" });
  }
  return json(kept.add(wanted), 201);
});
