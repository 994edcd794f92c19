/** What was changed last, so that open pages can follow. */

/** A record that is another now. */
export interface Change {
  /** Counts up over all records. */
  number: number;
  what: string;
  id: number;
}

/** Who asks after more than so many has to look at everything anew. */
const KEPT = 200;

// One list per process; it begins at the clock, so that a page notices a new start.
const shared = globalThis as { cucharaChanges?: { next: number; kept: Change[] } };
const state = () => (shared.cucharaChanges ??= { next: Date.now(), kept: [] });

/** Says that a record was added, changed, removed or brought back. */
export function tellChange(what: string, id: number): void {
  const { kept } = state();
  kept.push({ number: state().next++, what, id });
  if (kept.length > KEPT) kept.shift();
}

/** The changes behind number `after`; `all` if that is too long ago to tell. */
export function changesAfter(after: number): { next: number; all: boolean; changes: Change[] } {
  const { next, kept } = state();
  const oldest = kept.length === KEPT ? kept[0].number : next - kept.length;
  return { next, all: after < oldest || after > next, changes: kept.filter(({ number }) => number >= after) };
}

/** Says that everything may be another now. */
export function tellAll(): void {
  const now = state();
  now.next += KEPT + 1;
  now.kept = [];
}
