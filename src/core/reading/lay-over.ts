/** What a reader says now over what was said before: marks and lengths that are not named stay. */
import type { Measured } from "./found";
import type { GivenMark } from "./score";

export interface Said {
  marks: GivenMark[];
  measures: Measured[];
}

/** Both lists with the given ones in the place of those about the same. */
export function layOver(before: Said, given: Partial<Said>): Said {
  return {
    marks: over(before.marks, given.marks, ({ band, criterion }) => `${band} ${criterion}`),
    measures: over(before.measures, given.measures, ({ band, what }) => `${band} ${what}`),
  };
}

function over<T>(before: T[], given: T[] = [], keyOf: (one: T) => string): T[] {
  const all = new Map(before.map((one) => [keyOf(one), one]));
  for (const one of given) all.set(keyOf(one), one);
  return [...all.values()];
}
