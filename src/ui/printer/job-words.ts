import type { JobState } from "@/core/link/state";

/** A job's state as it is said on screen. */
export const jobWords: Record<JobState, string> = {
  running: "runs",
  paused: "paused",
  done: "done",
  cancelled: "cancelled",
  broken: "broke off",
};
