/** The numbered migrations, and the schema they make. */
import Database from "better-sqlite3";
import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { carryOver } from "./carry-over";

const migrationsFolder = () => join(process.cwd(), "src", "server", "db", "migrations");

function migrationFiles(): { number: number; file: string }[] {
  return readdirSync(migrationsFolder())
    .filter((name) => /^\d{3}-.*\.sql$/.test(name))
    .sort()
    .map((file) => ({ number: Number(file.slice(0, 3)), file }));
}

/** The version of database this program writes. */
export function newestVersion(): number {
  return migrationFiles().at(-1)!.number;
}

/** The version a database has. */
export const versionOf = (database: Database.Database) => database.pragma("user_version", { simple: true }) as number;

/** Brings a database up to a version. Each migration is one transaction: a kill leaves it done or not begun. */
export function migrate(database: Database.Database, version = newestVersion()): void {
  const done = versionOf(database);
  for (const { number, file } of migrationFiles()) {
    if (number <= done || number > version) continue;
    const sql = readFileSync(join(migrationsFolder(), file), "utf8");
    database.transaction(() => {
      database.exec(sql);
      carryOver[number]?.(database);
      database.pragma(`user_version = ${number}`);
    })();
  }
}

/** Everything a database is made of besides its rows: tables, indexes, triggers and views, by name, each as it was said in SQL. */
export function schemaOf(database: Database.Database): Map<string, string> {
  const rows = database
    .prepare(
      "SELECT type, name, tbl_name AS onTable, sql FROM sqlite_schema WHERE name NOT LIKE 'sqlite\\_%' ESCAPE '\\'",
    )
    .all() as { type: string; name: string; onTable: string; sql: string | null }[];
  return new Map(
    rows.map(({ type, name, onTable, sql }) => [`${type} ${name}`, `${onTable}: ${(sql ?? "").replace(/\s+/g, " ")}`]),
  );
}

/** The schema the migrations make at a version. */
export function schemaAt(version: number): Map<string, string> {
  const fresh = new Database(":memory:");
  try {
    migrate(fresh, version);
    return schemaOf(fresh);
  } finally {
    fresh.close();
  }
}
