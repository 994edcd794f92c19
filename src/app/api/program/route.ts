import { linkEvents } from "@/server/db/link-events";
import { preferencesSchema, readPreferences, writePreferences } from "@/server/db/preferences";
import { unreadableRecords } from "@/server/db/rows";
import { readBody } from "@/server/http/body";
import { handle, json } from "@/server/http/respond";
import { programSizes } from "@/server/work/backup";
import { logPath } from "@/server/log";
import packageJson from "../../../../package.json";

/** About the program itself: where its data and its log lie, how large they are, and what was chosen for it. */
export const GET = handle(
  () =>
    json({
      version: packageJson.version,
      ...programSizes(),
      talk: linkEvents.size(),
      log: logPath(),
      unreadable: unreadableRecords(),
      preferences: readPreferences(),
      delay: delayMs(),
    }),
  { who: "reader" },
);

export const PUT = handle(
  async (request) => json(writePreferences(await readBody(request, preferencesSchema.partial()))),
  { who: "bench" },
);

/** The measure's own pace, ms; see `main.ts`. */
const PACE_MS = 10;

/** How long this program kept others waiting since the last look, ms. */
function delayMs() {
  const { cucharaDelay } = globalThis as {
    cucharaDelay?: { percentile(share: number): number; max: number; reset(): void };
  };
  if (!cucharaDelay) return null;
  const ms = (nanoseconds: number) => Math.max(0, Math.round(nanoseconds / 1e4) / 100 - PACE_MS);
  const seen = {
    p50: ms(cucharaDelay.percentile(50)),
    p99: ms(cucharaDelay.percentile(99)),
    max: ms(cucharaDelay.max),
  };
  cucharaDelay.reset();
  return seen;
}
