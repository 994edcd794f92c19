import { z } from "zod";
import { newTrialSchema, ofTwoSchema } from "@/core/trials/trial-schema";
import { trials } from "@/server/db/trials";
import {
  basisOf,
  checkPair,
  firstTrial,
  refuseFractions,
  refusePairs,
  topsOfSheet,
  withBands,
} from "@/server/work/trials";
import { briefTrials } from "@/server/work/pages";
import { withTwo } from "@/server/work/matrix";
import { readBody } from "@/server/http/body";
import { handle, json } from "@/server/http/respond";

/** All trials, newest first; with `brief=1` only what lists show of them. */
export const GET = handle(
  (request) => json(new URL(request.url).searchParams.get("brief") === "1" ? briefTrials() : trials.list()),
  { who: "reader" },
);

/** `whole` asks the whole range, whatever earlier spools say. */
const asked = newTrialSchema.extend({
  whole: z.boolean({ error: "whole is true or false" }).default(false),
  ...ofTwoSchema.shape,
});

export const POST = handle(
  async (request) => {
    const { whole, across, up, ...rest } = await readBody(request, asked);
    checkPair(rest.printerId, rest.spoolId);
    const wanted = withTwo(rest, { across, up });
    refuseFractions(wanted);
    refusePairs(wanted.plan);
    const tops = await topsOfSheet(wanted, request.signal);
    return json(withBands(trials.add(firstTrial(wanted, tops, basisOf(wanted, whole)))), 201);
  },
  { who: "bench" },
);
