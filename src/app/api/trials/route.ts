import { newTrialSchema } from "@/core/trials/trial";
import { trials } from "@/server/db/trials";
import { checkPair, firstTrial, withBands } from "@/server/work/trials";
import { readBody } from "@/server/http/body";
import { handle, json } from "@/server/http/respond";

export const GET = handle(() => json(trials.list()));

export const POST = handle(async (request) => {
  const wanted = await readBody(request, newTrialSchema);
  checkPair(wanted.printerId, wanted.spoolId);
  return json(withBands(trials.add(firstTrial(wanted))), 201);
});
