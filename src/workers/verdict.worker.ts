/** Works out what all readings of a piece say, away from the page: many cells take longer than a frame. Thin: all computation is the core's. */
import { verdictOf } from "@/core/trials/run";
import { VerdictAnswer, verdictRequestSchema } from "./verdict-messages";

self.onmessage = ({ data }: MessageEvent<unknown>) => {
  const parsed = verdictRequestSchema.safeParse(data);
  if (!parsed.success) {
    const request = Number((data as { request?: unknown } | null)?.request);
    answer({ kind: "failed", request, message: parsed.error.issues[0].message });
    return;
  }
  const { request, run, units, readers, weights } = parsed.data;
  try {
    answer({ kind: "verdict", request, verdict: verdictOf(run, units, readers, weights) });
  } catch (error) {
    answer({ kind: "failed", request, message: String(error) });
  }
};

function answer(message: VerdictAnswer): void {
  self.postMessage(message);
}
