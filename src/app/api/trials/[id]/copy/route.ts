import { copySchema } from "@/core/trials/copy-schema";
import { trials } from "@/server/db/trials";
import { trialOf } from "@/server/http/trials";
import { checkPair, copyOf, withBands } from "@/server/work/trials";
import { readOptionalBody } from "@/server/http/body";
import { handle, json } from "@/server/http/respond";

export const POST = handle(
  async (request, params) => {
    const trial = trialOf(params);
    const to = await readOptionalBody(request, copySchema);
    const copy = copyOf(trial, to);
    checkPair(copy.printerId, copy.spoolId);
    return json(withBands(trials.add(copy)), 201);
  },
  { who: "bench" },
);
