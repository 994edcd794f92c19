/**
 * Rows that arrive in slices and are seen all at once: until then they are marked as removed at no time there is. What a kill leaves of
 * them is thrown away at the next start.
 */
import Database from "better-sqlite3";
import { tellAll } from "../changes";

/** The mark; it is no date. */
export const ARRIVING = "arriving";

const tables = ["trials", "kept_values", "spools", "printers"] as const;

export const arriving = {
  /** Shows what has arrived, all of it in one step. */
  show(database: Database.Database): void {
    database.transaction(() => {
      for (const table of tables) {
        database.prepare(`UPDATE ${table} SET removed_at = NULL WHERE removed_at = ?`).run(ARRIVING);
      }
    })();
    tellAll();
  },
  /** Throws away what has arrived and was not shown. */
  drop(database: Database.Database): void {
    database.transaction(() => {
      for (const table of tables) database.prepare(`DELETE FROM ${table} WHERE removed_at = ?`).run(ARRIVING);
    })();
  },
};
