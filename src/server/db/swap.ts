/**
 * A backup put in place of the database: two renames, and a moment between them. A backup that was checked is called `checked-….db`; what it
 * replaces is kept as `before-….db`. So what was cut in that moment is seen at the next start, and finished.
 */
import { existsSync, readdirSync, renameSync, rmSync, statSync } from "node:fs";
import { join } from "node:path";
import { checkBackup } from "./check-backup";
import { databasePath, dataFolder } from "./place";

/** A database and what lies beside it while it is open. */
const parts = ["", "-wal", "-shm"];

function move(from: string, to: string): void {
  for (const part of parts) if (existsSync(from + part)) renameSync(from + part, to + part);
}

const stamped = (word: string) =>
  join(dataFolder(), `${word}-${new Date().toISOString().slice(0, 19).replaceAll(":", ".")}.db`);

/** Files in the data's folder that begin with a word, the newest first. */
function called(word: string): string[] {
  return readdirSync(dataFolder())
    .filter((name) => name.startsWith(`${word}-`) && name.endsWith(".db"))
    .map((name) => join(dataFolder(), name))
    .sort((a, b) => statSync(b).mtimeMs - statSync(a).mtimeMs);
}

/** Removes copies that were left behind by a program that ended in the midst of making one. */
export function sweep(word: "copying" | "receiving" | "checked" | "restoring"): void {
  for (const path of called(word)) for (const part of parts) rmSync(path + part, { force: true });
}

/** Puts a checked backup in place; the path of what was there before, null if there was nothing. Both must be closed. */
export function swapIn(path: string): string | null {
  const checked = stamped("checked");
  renameSync(path, checked);
  const before = existsSync(databasePath()) ? stamped("before") : null;
  if (before) move(databasePath(), before);
  renameSync(checked, databasePath());
  return before;
}

/** Undoes it: what was there before is there again. */
export function swapBack(before: string | null): void {
  for (const part of parts) rmSync(databasePath() + part, { force: true });
  if (before) move(before, databasePath());
}

/**
 * Finishes what was cut between the two renames: the database is not there, a checked backup is (`restoring-….db` is what it was called
 * by earlier versions, which looked at less: one that does not pass leaves what was there before). Gives what was put in place; null if
 * nothing was cut.
 */
export function finishSwap(): string | null {
  if (existsSync(databasePath())) return null;
  const candidates = [...called("checked"), ...called("restoring")];
  if (candidates.length === 0) return null;
  const [before] = called("before");
  const found = candidates.find((path) => checkBackup(path).ok) ?? before;
  if (!found) return null;
  // What belongs to the one before must not be taken for the new one's.
  for (const part of parts.slice(1)) {
    if (!existsSync(databasePath() + part)) continue;
    if (before) renameSync(databasePath() + part, before + part);
    else rmSync(databasePath() + part);
  }
  move(found, databasePath());
  return found;
}
