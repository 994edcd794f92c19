/** Whether a file can take the place of the database, and what is done to it before it does. */
import Database from "better-sqlite3";
import { refuse, Result, succeed } from "@/core/result";
import type { DeviceRow } from "./devices";
import { migrate, newestVersion, schemaAt, schemaOf, versionOf } from "./migrate";

/** The version of a whole backup; refused with a sentence if it is damaged, no backup, of a newer program, or made otherwise than one. */
export function checkBackup(path: string): Result<number> {
  let backup: Database.Database;
  try {
    backup = new Database(path, { readonly: true, fileMustExist: true });
  } catch {
    return refuse("This is no backup: it is not a database.");
  }
  try {
    if (backup.pragma("integrity_check(1)", { simple: true }) !== "ok") {
      return refuse("The backup is damaged, so it was not put in place.");
    }
    const version = versionOf(backup);
    if (version > newestVersion()) {
      return refuse(`The backup is of a newer Cuchara (version ${version}, this one knows ${newestVersion()}).`);
    }
    const schema = schemaOf(backup);
    if (version < 1 || !schema.has("table printers")) return refuse("This is a database, but none of Cuchara's.");
    const wrong = differenceBetween(schema, schemaAt(version));
    if (wrong) return refuse(`This is no backup as Cuchara makes them: ${wrong}. It was not put in place.`);
    if ((backup.pragma("foreign_key_check") as unknown[]).length > 0) {
      return refuse("The backup is not whole: some of its records name others that are missing.");
    }
    for (const name of [...schema.keys()].filter((key) => key.startsWith("table "))) {
      backup.prepare(`SELECT * FROM "${name.slice("table ".length).replaceAll('"', '""')}" LIMIT 1`).get();
    }
    return succeed(version);
  } catch {
    return refuse("This is no backup, or it is damaged: it cannot be read as a database.");
  } finally {
    backup.close();
  }
}

/** The first thing in which a schema is not as it must be; null if it is the same. */
function differenceBetween(schema: Map<string, string>, must: Map<string, string>): string | null {
  for (const [name, sql] of must) {
    if (!schema.has(name)) return `its ${name} is missing`;
    if (schema.get(name) !== sql) return `its ${name} is another`;
  }
  const more = [...schema.keys()].find((name) => !must.has(name));
  return more === undefined ? null : `it has a ${more} that does not belong there`;
}

/**
 * Brings a checked backup up to this program's version, with the devices that are let in now: whom a file lets in is nobody's business.
 */
export function readyBackup(path: string, devices: readonly DeviceRow[]): void {
  const backup = new Database(path);
  try {
    migrate(backup);
    backup.transaction(() => {
      backup.prepare("DELETE FROM devices").run();
      const put = backup.prepare(
        `INSERT INTO devices (id, name, token_hash, may, version, created_at, seen_at)
         VALUES (@id, @name, @token_hash, @may, @version, @created_at, @seen_at)`,
      );
      for (const device of devices) put.run(device);
    })();
  } finally {
    backup.close();
  }
}
