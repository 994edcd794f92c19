/** Several runs of one tune: whether they agree, and what to do next. */
import { plainNumber } from "../units";
import { Tune, TuneOutcome } from "./tune";

export interface RunsSaid {
  advice: string;
  /** Mechanics first: the numbers are not to be trusted. */
  disagree: boolean;
  /** The last run says that nothing needs to be changed. */
  done: boolean;
}

/**
 * What the runs since the last change say.
 * @param outcomes of runs with the same values in force, oldest first
 */
export function judgeRuns(
  { agreeWithin }: Pick<Tune, "agreeWithin">,
  outcomes: readonly TuneOutcome[],
): RunsSaid | null {
  const last = outcomes.at(-1);
  if (!last) return null;
  const before = outcomes.at(-2);
  const apart = before ? Math.abs(last.measured - before.measured) : 0;
  if (before && apart > agreeWithin) {
    return {
      advice: `Two runs differ by ${plainNumber(apart, 2)} ${last.unit}. Look at the mechanics before you touch numbers: the drive gear, loose pulleys and screws, the filament's path.`,
      disagree: true,
      done: false,
    };
  }
  if (last.within) return { advice: "Nothing to change. Keep it and go on.", disagree: false, done: true };
  if (agreeWithin === Infinity) return { advice: "The new value can be tried.", disagree: false, done: false };
  return {
    advice: before
      ? "Two runs agree: the new value can be tried."
      : "Run it once more before you change anything: two runs that agree are worth ten that were not made.",
    disagree: false,
    done: false,
  };
}
