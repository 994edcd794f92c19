/** Printers and spools: records of checked JSON with a name, removed softly so that it can be undone. */
import Database from "better-sqlite3";
import { z } from "zod";
import { mendName } from "@/core/shelf/name";
import { tellChange } from "../changes";
import { database } from "./connection";
import { readRow, readRows, refuseStale } from "./rows";

/** A record as it is stored; `version` counts its changes. */
export type Stored<T> = T & { id: number; version: number; createdAt: string; updatedAt: string };

interface Row {
  id: number;
  data: string;
  version: number;
  created_at: string;
  updated_at: string;
}

export interface ShelfTable<T> {
  list(): Stored<T>[];
  /** Null for an unknown id, and for a removed one unless `withRemoved`. */
  get(id: number, withRemoved?: boolean): Stored<T> | null;
  add(record: T): Stored<T>;
  /** Stores a record and gives its id; one that is marked as removed is not seen yet. */
  insert(record: T, removedAt: string | null): number;
  /** Null for an unknown id; refused if the record is not the version `seen` any more. */
  change(id: number, record: T, seen?: number): Stored<T> | null;
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
  const what = name.slice(0, -1);
  const stored = (text: string) => {
    const record = JSON.parse(text) as { name?: unknown };
    return schema.parse({ ...record, name: mendName(record.name) });
  };
  const read = (row: Row): Stored<T> => ({
    ...stored(row.data),
    id: row.id,
    version: row.version,
    createdAt: row.created_at,
    updatedAt: row.updated_at,
  });
  const get = (id: number, withRemoved = false) =>
    readRow(
      what,
      connection()
        .prepare(`SELECT * FROM ${name} WHERE id = ? ${withRemoved ? "" : "AND removed_at IS NULL"}`)
        .get(id) as Row | undefined,
      read,
    );
  const mark = (id: number, removedAt: string | null) => {
    const done =
      connection().prepare(`UPDATE ${name} SET removed_at = ?, version = version + 1 WHERE id = ?`).run(removedAt, id)
        .changes > 0;
    if (done) tellChange(name, id);
    return done;
  };
  const insert = (record: T, removedAt: string | null) => {
    const now = new Date().toISOString();
    const { lastInsertRowid } = connection()
      .prepare(`INSERT INTO ${name} (name, data, created_at, updated_at, removed_at) VALUES (?, ?, ?, ?, ?)`)
      .run(record.name, JSON.stringify(record), now, now, removedAt);
    return Number(lastInsertRowid);
  };
  return {
    list: () =>
      readRows(
        what,
        connection().prepare(`SELECT * FROM ${name} WHERE removed_at IS NULL ORDER BY id`).all() as Row[],
        read,
      ),
    get,
    insert,
    add(record) {
      const id = insert(record, null);
      tellChange(name, id);
      return get(id)!;
    },
    change(id, record, seen) {
      const before = get(id);
      if (!before) return null;
      refuseStale(what, before, seen);
      connection()
        .prepare(`UPDATE ${name} SET name = ?, data = ?, updated_at = ?, version = version + 1 WHERE id = ?`)
        .run(record.name, JSON.stringify(record), new Date().toISOString(), id);
      tellChange(name, id);
      return get(id);
    },
    remove: (id) => get(id) !== null && mark(id, new Date().toISOString()),
    restore: (id) => (mark(id, null) ? get(id) : null),
  };
}
