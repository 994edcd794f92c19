/** What the tables of printers and spools have in common: a checked JSON record, removal that can be undone. */
import Database from "better-sqlite3";
import { z } from "zod";
import { database } from "./connection";

export type Stored<T> = T & { id: number; createdAt: string; updatedAt: string };

interface Row {
  id: number;
  data: string;
  created_at: string;
  updated_at: string;
}

export interface ShelfTable<T> {
  list(): Stored<T>[];
  /** Null for an unknown id, and for a removed one unless `withRemoved`. */
  get(id: number, withRemoved?: boolean): Stored<T> | null;
  add(record: T): Stored<T>;
  change(id: number, record: T): Stored<T> | null;
  /** Takes the record off the shelf; `restore` puts it back. */
  remove(id: number): boolean;
  restore(id: number): Stored<T> | null;
}

/** The table `name`, whose rows hold records of `schema`. */
export function shelfTable<T extends { name: string }>(
  name: "printers" | "spools",
  schema: z.ZodType<T>,
  connection: () => Database.Database = database,
): ShelfTable<T> {
  const read = (row: Row | undefined): Stored<T> | null =>
    row
      ? { ...schema.parse(JSON.parse(row.data)), id: row.id, createdAt: row.created_at, updatedAt: row.updated_at }
      : null;
  const get = (id: number, withRemoved = false) =>
    read(
      connection()
        .prepare(`SELECT * FROM ${name} WHERE id = ? ${withRemoved ? "" : "AND removed_at IS NULL"}`)
        .get(id) as Row | undefined,
    );
  const mark = (id: number, removedAt: string | null) =>
    connection().prepare(`UPDATE ${name} SET removed_at = ? WHERE id = ?`).run(removedAt, id).changes > 0;
  return {
    list: () =>
      (connection().prepare(`SELECT * FROM ${name} WHERE removed_at IS NULL ORDER BY id`).all() as Row[]).map((row) =>
        read(row)!,
      ),
    get,
    add(record) {
      const now = new Date().toISOString();
      const { lastInsertRowid } = connection()
        .prepare(`INSERT INTO ${name} (name, data, created_at, updated_at) VALUES (?, ?, ?, ?)`)
        .run(record.name, JSON.stringify(record), now, now);
      return get(Number(lastInsertRowid))!;
    },
    change(id, record) {
      connection()
        .prepare(`UPDATE ${name} SET name = ?, data = ?, updated_at = ? WHERE id = ? AND removed_at IS NULL`)
        .run(record.name, JSON.stringify(record), new Date().toISOString(), id);
      return get(id);
    },
    remove: (id) => get(id) !== null && mark(id, new Date().toISOString()),
    restore: (id) => (mark(id, null) ? get(id) : null),
  };
}
