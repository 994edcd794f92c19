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
      : "Run it again before changing anything. Two matching runs are needed.",
    disagree: false,
    done: false,
  };
}

/**
 * What two runs that agree say together: the mean of the new values, so that neither run counts alone. The last run's outcome where there is
 * one only, where they differ, or where they do not speak of the same values.
 *
 * @param outcomes of runs with the same values in force, oldest first
 */
export function togetherOf(
  { agreeWithin }: Pick<Tune, "agreeWithin">,
  outcomes: readonly TuneOutcome[],
): TuneOutcome | undefined {
  const [before, last] = [outcomes.at(-2), outcomes.at(-1)];
  if (!before || !last || !Number.isFinite(agreeWithin)) return last;
  if (Math.abs(last.measured - before.measured) > agreeWithin) return last;
  const ids = Object.keys(last.firmware);
  if (ids.length === 0 || ids.some((id) => before.firmware[id] === undefined)) return last;
  const mean = (one: number, other: number) => (one + other) / 2;
  return {
    ...last,
    measured: mean(before.measured, last.measured),
    firmware: Object.fromEntries(ids.map((id) => [id, mean(before.firmware[id], last.firmware[id])])),
  };
}
