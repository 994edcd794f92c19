/** What can be wrong with the database, in sentences. Codes are SQLite's own (https://sqlite.org/rescode.html). */

/** The database cannot be used as it is, and why; nothing is read from it or written to it. */
export class StorageTrouble extends Error {
  override readonly name = "StorageTrouble";
}

const sentences: [RegExp, string][] = [
  [
    /^SQLITE_(BUSY|LOCKED)/,
    "The database is held by another program, so nothing was stored. Close that program, then try again.",
  ],
  [/^(SQLITE_FULL|ENOSPC)/, "The disk is full, so nothing was stored. Make room, then try again."],
  [
    /^(SQLITE_READONLY|EROFS|EACCES|EPERM)/,
    "The database cannot be written to. Allow writing in its folder, then try again.",
  ],
  [
    /^SQLITE_(CORRUPT|NOTADB)/,
    "The database is damaged. It was left unchanged: restore a backup, then start Cuchara again.",
  ],
  [/^SQLITE_(IOERR|CANTOPEN)/, "The disk does not give or take the database. Look at its folder, then try again."],
];

/** The sentence for an error of the database; null if it is no such error. */
export function storageTrouble(error: unknown): string | null {
  // Told by its fields: an error of the native part does not always descend from this program's own Error.
  if (typeof error !== "object" || error === null) return null;
  const { name, message, code } = error as { name?: unknown; message?: unknown; code?: unknown };
  if (name === "StorageTrouble") return String(message);
  if (typeof code !== "string") return null;
  return sentences.find(([pattern]) => pattern.test(code))?.[1] ?? null;
}
