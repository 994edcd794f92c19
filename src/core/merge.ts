/** Two people change one record: what each of them meant, and where they meant different things. */

export interface Merge<T> {
  /** The record with both their changes, where they do not contradict each other. */
  merged: T;
  /** What of it is mine and not yet theirs. */
  changes: Partial<T>;
  /** Fields that both have changed, to different values; `merged` has theirs. */
  conflicts: (keyof T)[];
}

const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b);

/** The fields of `now` that differ from `before`. Figures that are not finite count as null, as in JSON. */
export function changedFields<T extends object>(before: T, now: T): Partial<T> {
  const keys = Object.keys(now) as (keyof T)[];
  return Object.fromEntries(
    keys.filter((key) => !same(before[key], now[key])).map((key) => [key, now[key]]),
  ) as Partial<T>;
}

/**
 * Merges what I made of `before` with what they made of it, field by field.
 *
 * Laws: with nothing changed by me it is theirs; with nothing changed by them it is mine; what one of us did not touch, it keeps.
 */
export function merge<T extends object>(before: T, mine: T, theirs: T): Merge<T> {
  const wanted = changedFields(before, mine);
  const changes: Partial<T> = {};
  const conflicts: (keyof T)[] = [];
  for (const key of Object.keys(wanted) as (keyof T)[]) {
    if (same(mine[key], theirs[key])) continue;
    if (same(before[key], theirs[key])) changes[key] = mine[key];
    else conflicts.push(key);
  }
  return { merged: { ...theirs, ...changes }, changes, conflicts };
}
