/** One phase of a measured tune, on a linked printer. */
import { tuneFor } from "@/core/measure";
import { actLines, coolLines, heatLines } from "@/core/measure/program";
import type { TuneAsk } from "@/core/measure/request-schema";
import { Refused } from "../refused";
import { tuneFrom } from "../work/tunes";
import { openLinkOf } from "./hub";

/** A printer that says nothing for so long, beyond what a line itself takes, gives no answer any more. */
const ANSWER_WITHIN_MS = 10_000;

const linesOf = { heat: heatLines, act: actLines, cool: coolLines };

/** Sends its lines and waits until all are taken; gives what came back. Refused where a line was not. */
export async function conductTune(printerId: number, phase: "heat" | "act" | "cool", ask: TuneAsk): Promise<string[]> {
  const link = openLinkOf(printerId);
  if (link.job?.running) {
    throw new Refused("conflict", "A job is running on this printer. Measure when it is through.");
  }
  const tune = tuneFor(ask.tune);
  const refusal = tune.refuses?.(link.printer) ?? null;
  if (refusal && phase !== "cool") throw new Refused("conflict", refusal);
  const lines = linesOf[phase](tune, tuneFrom(ask, link.printer));
  const exchanges = await Promise.all(
    lines.map((line) => link.session.exchange(line, "measure", { withinMs: ANSWER_WITHIN_MS })),
  );
  const failed = exchanges.findIndex(({ outcome }) => outcome !== "taken");
  if (failed >= 0) {
    const what = exchanges[failed].outcome === "not sent" ? "not sent" : "not answered";
    throw new Refused("conflict", `“${lines[failed]}” was ${what}. The tune stopped there.`);
  }
  return exchanges.flatMap(({ answers }) => answers);
}
