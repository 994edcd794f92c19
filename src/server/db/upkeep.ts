/** Keeps the database whole in one file and no larger than it needs to be, in slices that hold nothing up. */
import { log } from "../log";
import { database, foldIntoOneFile, quickDatabase } from "./connection";
import { tidySlices } from "./tidy";

/** Looked at so often. */
const LOOK_EVERY_MS = 15_000;
/** So long without a write, and everything is put into the one file. */
const QUIET_MS = 60_000;
/** The talk is thinned so often; its bounds hold all day. */
const TIDY_EVERY_MS = 10 * 60_000;
/** Between two slices everything else has its turn. */
const SLICE_EVERY_MS = 40;

/** Begins; gives what ends it. */
export function startUpkeep(): () => void {
  let writes = -1;
  let quietSinceMs = Date.now();
  let isFolded = false;
  let tidiedMs = 0;
  let slices: Iterator<void> | null = null;
  let sliceTimer: ReturnType<typeof setTimeout> | null = null;

  const guarded = (what: string, act: () => void) => {
    try {
      act();
    } catch (error) {
      log().warn({ err: error }, what);
      slices = null;
    }
  };
  const slice = () => {
    sliceTimer = null;
    guarded("tidying failed", () => {
      if (slices?.next().done) slices = null;
    });
    if (slices) sliceTimer = setTimeout(slice, SLICE_EVERY_MS);
    sliceTimer?.unref();
  };
  const look = () =>
    guarded("the database could not be looked after", () => {
      const now = writesSoFar();
      if (now !== writes) {
        writes = now;
        quietSinceMs = Date.now();
        isFolded = false;
      } else if (!isFolded && Date.now() - quietSinceMs >= QUIET_MS) {
        foldIntoOneFile();
        isFolded = true;
      }
      if (slices || Date.now() - tidiedMs < TIDY_EVERY_MS) return;
      tidiedMs = Date.now();
      slices = tidySlices(tidiedMs);
      slice();
    });
  const timer = setInterval(look, LOOK_EVERY_MS);
  timer.unref();
  look();
  return () => {
    clearInterval(timer);
    if (sliceTimer) clearTimeout(sliceTimer);
  };
}

function writesSoFar(): number {
  const count = (connection: ReturnType<typeof database>) =>
    (connection.prepare("SELECT total_changes() AS n").get() as { n: number }).n;
  return count(database()) + count(quickDatabase());
}
