/** What was removed and can be put back: rows that are marked as removed, until they are thrown away (`tidy.ts`). */
import { tellChange } from "../changes";
import { ARRIVING } from "./arriving";
import { database, quickDatabase } from "./connection";

/** Removed things rest so long. */
export const REMOVED_DAYS = 30;
/** As many as a page shows; a search finds the others. */
const MOST_SHOWN = 500;
/** The time of what was thrown away by hand: long past, so that the next tidying takes it. */
const THROWN_AWAY = "1970-01-01T00:00:00.000Z";

/** The tables whose rows rest, how a row is called, and under which address it is put back. */
const tables = {
  printers: { what: "printer", name: "name", path: "printers" },
  spools: { what: "spool", name: "name", path: "spools" },
  trials: { what: "trial", name: "name", path: "trials" },
  files: { what: "file", name: "name", path: "files" },
  sheets: { what: "sheet", name: "json_extract(data, '$.name')", path: "sheets" },
  edit_sets: { what: "set of edits", name: "name", path: "edit-sets" },
  runs: { what: "piece", name: "json_extract(trial, '$.name')", path: "runs" },
  kept_values: { what: "kept value", name: "setting || ' ' || value", path: "kept" },
} as const;
export type BinTable = keyof typeof tables;
export const binTables = Object.keys(tables) as [BinTable, ...BinTable[]];

export interface Removed {
  table: BinTable;
  id: number;
  what: string;
  name: string;
  removedAt: string;
  /** Where it is put back: `POST /api…`. */
  restore: string;
}

const isResting = `removed_at IS NOT NULL AND removed_at NOT IN ('${ARRIVING}', '${THROWN_AWAY}')`;

export const bin = {
  /** What rests, newest first; what its name or kind holds `search`, either case, if that is given. */
  list(search = ""): Removed[] {
    const each = binTables.map((table) => {
      const { what, name } = tables[table];
      return `SELECT '${table}' AS "table", id, '${what}' AS what, ${name} AS name, removed_at AS removedAt FROM ${table} WHERE ${isResting}`;
    });
    const rows = database()
      .prepare(
        `SELECT * FROM (${each.join(" UNION ALL ")}) WHERE instr(lower(what || ' ' || name), ?) > 0
         ORDER BY removedAt DESC, id DESC LIMIT ${MOST_SHOWN}`,
      )
      .all(search.toLowerCase()) as Omit<Removed, "restore">[];
    return rows.map((row) => ({ ...row, restore: `/${tables[row.table].path}/${row.id}/restore` }));
  },
  /** Throws one thing away for good; false where it does not rest. */
  throwAway(table: BinTable, id: number): boolean {
    const { changes } = database()
      .prepare(`UPDATE ${table} SET removed_at = ? WHERE id = ? AND ${isResting}`)
      .run(THROWN_AWAY, id);
    if (changes > 0) tellChange("bin", id);
    return changes > 0;
  },
  /** Throws everything away for good; how much that was. */
  empty(): number {
    const count = database().transaction(() =>
      binTables
        .map((table) => database().prepare(`UPDATE ${table} SET removed_at = ? WHERE ${isResting}`).run(THROWN_AWAY))
        .reduce((sum, { changes }) => sum + changes, 0),
    )();
    if (count > 0) tellChange("bin", 0);
    return count;
  },
};

/** What must go, or let go, before a row of a table can: each takes the row's id. */
const before: Partial<Record<BinTable, string[]>> = {
  runs: ["DELETE FROM readings WHERE run_id = ?", "UPDATE kept_values SET run_id = NULL WHERE run_id = ?"],
  trials: [
    "UPDATE kept_values SET trial_id = NULL WHERE trial_id = ?",
    "UPDATE trials SET from_trial = NULL WHERE from_trial = ?",
  ],
};

/**
 * Throws records away whose time is over, one at a time; a piece goes with its trial. What others still speak of (the printer of a trial)
 * stays until they are gone. Files and photos are large and go by themselves (`tidy.ts`).
 */
export function* throwRecordsAway(beforeIso: string): Generator<void> {
  quickDatabase()
    .prepare(
      `UPDATE runs SET removed_at = ? WHERE removed_at IS NULL AND trial_id IN (SELECT id FROM trials WHERE removed_at < ?)`,
    )
    .run(THROWN_AWAY, beforeIso);
  yield;
  for (const table of ["runs", "trials", "sheets", "edit_sets", "kept_values", "spools", "printers"] as const) {
    const gone = database()
      .prepare(`SELECT id FROM ${table} WHERE removed_at < ? AND removed_at <> '${ARRIVING}'`)
      .pluck()
      .all(beforeIso) as number[];
    for (const id of gone) {
      throwRowAway(table, id);
      yield;
    }
  }
}

function throwRowAway(table: BinTable, id: number): void {
  try {
    quickDatabase().transaction(() => {
      for (const sql of before[table] ?? []) quickDatabase().prepare(sql).run(id);
      quickDatabase().prepare(`DELETE FROM ${table} WHERE id = ?`).run(id);
    })();
  } catch (error) {
    if ((error as { code?: string }).code !== "SQLITE_CONSTRAINT_FOREIGNKEY") throw error;
  }
}
