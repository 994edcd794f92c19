/**
 * The comments Cuchara writes: `; cuchara: band 3/9 nozzle 215 from 21.5 mm`. They stand on the lines a plan puts in, so
 * that a later look can find the lines and lift them out.
 */

const MARK = new TextEncoder().encode("cuchara: band ");

/** Whether the comment in `bytes[from, to)` marks a line put in by a plan. */
export function isCucharaComment(bytes: Uint8Array, from: number, to: number): boolean {
  while (from < to && bytes[from] === 32) from++;
  if (to - from < MARK.length) return false;
  for (let i = 0; i < MARK.length; i++) if (bytes[from + i] !== MARK[i]) return false;
  return true;
}

/** The comment for a line that sets `what` (`nozzle 215`) for band `number` of `count`, asked for at `fromMm` (plain text). */
export function cucharaComment(number: number, count: number, what: string, fromMm: string): string {
  return `; cuchara: band ${number}/${count} ${what} from ${fromMm} mm`;
}

/** The comment that opens a layer in the programs Cuchara writes; `index` from 0. */
export function layerComment(index: number, count: number, zMm: string): string {
  return `; layer ${index + 1} of ${count}, top at ${zMm} mm`;
}
