/** Rows that are not what they should be, and records that somebody else has changed. */
import { log } from "../log";
import { Refused } from "../refused";

/** Rows that were passed over, by table and id, so that each is told once. */
const shared = globalThis as { cucharaUnreadable?: Map<string, string> };
const unreadable = () => (shared.cucharaUnreadable ??= new Map());

/** Records that cannot be read, as sentences. */
export function unreadableRecords(): string[] {
  return [...unreadable().values()];
}

function tell(what: string, id: number, error: unknown): string {
  const sentence = `The ${what} ${id} cannot be read: it is not in the form this program writes. It was left unchanged.`;
  if (!unreadable().has(`${what} ${id}`)) {
    unreadable().set(`${what} ${id}`, sentence);
    log().warn({ err: error, what, id }, "a record cannot be read");
  }
  return sentence;
}

/** Reads the rows that can be read; one bad row does not take the others with it. */
export function readRows<R extends { id: number }, T>(what: string, rows: R[], read: (row: R) => T): T[] {
  return rows.flatMap((row) => {
    try {
      return [read(row)];
    } catch (error) {
      tell(what, row.id, error);
      return [];
    }
  });
}

/** Reads one row; refused with a sentence if it cannot be read, null if there is none. */
export function readRow<R extends { id: number }, T>(what: string, row: R | undefined, read: (row: R) => T): T | null {
  if (!row) return null;
  try {
    return read(row);
  } catch (error) {
    throw new Refused("unreadable", tell(what, row.id, error));
  }
}

/**
 * Refuses a change by somebody who has not seen the record as it is. `seen` is the version he saw; undefined takes it as seen now.
 */
export function refuseStale(what: string, current: { version: number }, seen: number | undefined): void {
  if (seen === undefined || seen === current.version) return;
  throw new Refused(
    "conflict",
    `This ${what} was changed elsewhere meanwhile: you saw version ${seen}, now it is ${current.version}. Nothing was stored.`,
    { current },
  );
}
