/** Whether a file can take the place of the database. */
import Database from "better-sqlite3";
import { refuse, Result, succeed } from "@/core/result";

/** Tables without which it is no database of this program. */
const tables = ["printers", "spools", "trials", "bench"];

/** The version of a whole backup; refused with a sentence if it is damaged, no backup, or of a newer program. */
export function checkBackup(path: string, newestVersion: number): Result<number> {
  let backup: Database.Database;
  try {
    backup = new Database(path, { readonly: true, fileMustExist: true });
  } catch {
    return refuse("This is no backup: it is not a database.");
  }
  try {
    const problems = backup.pragma("integrity_check(1)", { simple: true });
    if (problems !== "ok") return refuse("The backup is damaged, so it was not put in place.");
    const version = backup.pragma("user_version", { simple: true }) as number;
    if (version > newestVersion) {
      return refuse(`The backup is of a newer Cuchara (version ${version}, this one knows ${newestVersion}).`);
    }
    const found = backup.prepare("SELECT name FROM sqlite_schema WHERE type = 'table'").pluck().all();
    if (version < 1 || tables.some((name) => !found.includes(name))) {
      return refuse("This is a database, but none of Cuchara's.");
    }
    return succeed(version);
  } catch {
    return refuse("This is no backup, or it is damaged: it cannot be read as a database.");
  } finally {
    backup.close();
  }
}
