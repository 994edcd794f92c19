import { z } from "zod";
import { tuneFor } from "@/core/measure";
import { actLines, coolLines, heatLines } from "@/core/measure/program";
import { tuneAskSchema } from "@/core/measure/request";
import { printerBody } from "@/server/http/link";
import { tuneFrom } from "@/server/http/measure";
import { handle, HttpError, json, readBody } from "@/server/http/respond";
import { openLinkOf } from "@/server/link/hub";

const body = printerBody.extend(tuneAskSchema.shape).extend({
  phase: z.enum(["heat", "act", "cool"], { error: "The phase is heat, act or cool" }),
});

/** Sends the lines of one phase of a tune and waits until all are taken; answers with what came back. */
export const POST = handle(async (request) => {
  const { printerId, phase, ...ask } = await readBody(request, body);
  const link = openLinkOf(printerId);
  if (link.job?.running) throw new HttpError(409, "A job is running on this printer. Measure when it is through.");
  const tune = tuneFor(ask.tune);
  const refusal = tune.refuses?.(link.printer) ?? null;
  if (refusal && phase !== "cool") throw new HttpError(409, refusal);
  const wanted = tuneFrom(ask, link.printer);
  const lines =
    phase === "heat" ? heatLines(tune, wanted) : phase === "act" ? actLines(tune, wanted) : coolLines(tune, wanted);
  const exchanges = await Promise.all(lines.map((line) => link.session.exchange(line, "measure")));
  const failed = exchanges.findIndex(({ outcome }) => outcome !== "taken");
  if (failed >= 0)
    throw new HttpError(
      409,
      `“${lines[failed]}” was ${exchanges[failed].outcome === "not sent" ? "not sent" : "not answered"}. The tune stopped there.`,
    );
  return json({ answers: exchanges.flatMap(({ answers }) => answers) });
});
