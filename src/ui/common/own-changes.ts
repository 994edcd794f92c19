/** What this page has just stored itself: it need not be fetched again when it is told as a change. */

const own = new Map<string, number>();

/** Says that a record was stored from here. */
export function expectOwn(what: string, id: number): void {
  const key = `${what} ${id}`;
  own.set(key, (own.get(key) ?? 0) + 1);
}

/** Whether a change that is told is one of this page's own; each counts once. */
export function isOwn(what: string, id: number): boolean {
  const key = `${what} ${id}`;
  const left = own.get(key) ?? 0;
  if (left <= 1) own.delete(key);
  else own.set(key, left - 1);
  return left > 0;
}
