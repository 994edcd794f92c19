/** Two readings side by side. */
import { ValueEntry } from "./reading";

export interface ValueDifference {
  id: string;
  /** Null where a reading does not have it. */
  before: number | null;
  after: number | null;
}

/** What differs between two readings, in the order of the later one; what only the earlier one had stands at the end. */
export function compareReadings(before: ValueEntry[], after: ValueEntry[]): ValueDifference[] {
  const old = new Map(before.map(({ id, value }) => [id, value]));
  const now = new Set(after.map(({ id }) => id));
  const changed = after
    .filter(({ id, value }) => old.get(id) !== value)
    .map(({ id, value }) => ({ id, before: old.get(id) ?? null, after: value }));
  const gone = before.filter(({ id }) => !now.has(id)).map(({ id, value }) => ({ id, before: value, after: null }));
  return [...changed, ...gone];
}
