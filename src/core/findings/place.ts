/** Where a finding leads: the line of the program it speaks of. */

/** The line (from 1) that a place names (`line 1204`, `layer 3 at 0.6 mm, line 77`); null where it names none. */
export function lineOfPlace(where: string): number | null {
  const found = /\bline (\d+)/.exec(where);
  return found ? Number(found[1]) : null;
}

/** The layer (from 1) that a place names; null where it names none. */
export function layerOfPlace(where: string): number | null {
  const found = /\blayer (\d+)/.exec(where);
  return found ? Number(found[1]) : null;
}
