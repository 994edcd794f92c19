import { trialKindFor } from "@/core/trials";
import { newTrialSchema } from "@/core/trials/trial";
import { printers } from "@/server/db/printers";
import { spools } from "@/server/db/spools";
import { trials } from "@/server/db/trials";
import { checkPair, withBands } from "@/server/http/trials";
import { handle, json, readBody } from "@/server/http/respond";

export const GET = handle(() => json(trials.list()));

export const POST = handle(async (request) => {
  const wanted = await readBody(request, newTrialSchema);
  checkPair(wanted.printerId, wanted.spoolId);
  const kind = trialKindFor(wanted.kind);
  const spool = spools.get(wanted.spoolId)!;
  const first = kind.firstRound(printers.get(wanted.printerId)!, spool);
  const trial = trials.add({
    ...wanted,
    name: wanted.name || kind.question(spool),
    plan: wanted.plan ?? first.plan,
    fixed: wanted.fixed ?? first.fixed,
  });
  return json(withBands(trial), 201);
});
