/** What the firmware lets its axes have, out of a reading of its values. */
import type { ValueEntry } from "./reading";

/** A firmware with one acceleration for all has no ceiling above what it is told. */
const axisIds = ["highestAccelerationX", "highestAccelerationY"];

/** The highest acceleration, mm/s², that both axes of the bed may have; null if the reading does not say. */
export function accelerationCeiling(entries: readonly Pick<ValueEntry, "id" | "value">[]): number | null {
  const found = entries.filter(({ id }) => axisIds.includes(id)).map(({ value }) => value);
  return found.length > 0 ? Math.min(...found) : null;
}
