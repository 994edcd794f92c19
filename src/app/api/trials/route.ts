import { newTrialSchema } from "@/core/trials/trial-schema";
import { trials } from "@/server/db/trials";
import { checkPair, firstTrial, refuseFractions, topsOfSheet, withBands } from "@/server/work/trials";
import { briefTrials } from "@/server/work/pages";
import { readBody } from "@/server/http/body";
import { handle, json } from "@/server/http/respond";

/** All trials, newest first; with `brief=1` only what lists show of them. */
export const GET = handle(
  (request) => json(new URL(request.url).searchParams.get("brief") === "1" ? briefTrials() : trials.list()),
  { who: "reader" },
);

export const POST = handle(
  async (request) => {
    const wanted = await readBody(request, newTrialSchema);
    checkPair(wanted.printerId, wanted.spoolId);
    refuseFractions(wanted);
    const tops = await topsOfSheet(wanted, request.signal);
    return json(withBands(trials.add(firstTrial(wanted, tops))), 201);
  },
  { who: "bench" },
);
