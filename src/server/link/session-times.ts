/** How long the talk with a printer waits for what. */

export interface SessionTimes {
  /** Beyond a line's own patience, so long without a sign of life and a typed line counts as unanswered. */
  silenceMs: number;
  /** … and a numbered line is sent again: the printer knows whether it had it. */
  numberedSilenceMs: number;
  /** A line whose stream was ended is waited for so long, then passed by. */
  endedSilenceMs: number;
  /** After `Resend` the line must be quiet for so long … */
  quietMs: number;
  /** … but is not waited for longer than this. */
  longestQuietMs: number;
  /** A line that began and did not end is taken as it is after so long. */
  partMs: number;
}

export const usualTimes: SessionTimes = {
  silenceMs: 10_000,
  numberedSilenceMs: 6000,
  endedSilenceMs: 2000,
  quietMs: 60,
  longestQuietMs: 500,
  partMs: 700,
};
