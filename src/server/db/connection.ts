/** The database: one SQLite file, plain SQL, numbered migrations. */
import Database from "better-sqlite3";
import { mkdirSync, readdirSync, readFileSync } from "node:fs";
import { homedir } from "node:os";
import { join } from "node:path";

/** Folder of the user's data: `CUCHARA_DATA`, or `.cuchara` in the home directory. */
export function dataFolder(): string {
  return process.env.CUCHARA_DATA || join(homedir(), ".cuchara");
}

export function databasePath(): string {
  return join(dataFolder(), "cuchara.db");
}

const migrationsFolder = () => join(process.cwd(), "src", "server", "db", "migrations");

/** Opens a database and brings it up to date. Each migration is one transaction: a kill leaves it done or not begun. */
export function openDatabase(path: string): Database.Database {
  const database = new Database(path);
  database.pragma("journal_mode = WAL");
  database.pragma("synchronous = NORMAL");
  database.pragma("foreign_keys = ON");
  database.pragma("busy_timeout = 5000");
  migrate(database);
  return database;
}

function migrate(database: Database.Database): void {
  const done = database.pragma("user_version", { simple: true }) as number;
  const files = readdirSync(migrationsFolder())
    .filter((name) => /^\d{3}-.*\.sql$/.test(name))
    .sort();
  for (const file of files) {
    const number = Number(file.slice(0, 3));
    if (number <= done) continue;
    const sql = readFileSync(join(migrationsFolder(), file), "utf8");
    database.transaction(() => {
      database.exec(sql);
      database.pragma(`user_version = ${number}`);
    })();
  }
}

// One connection per process; kept on globalThis because a development server loads modules anew.
const shared = globalThis as { cucharaDatabase?: Database.Database };

/** The process's connection, opened at first use. Files whose upload never ended are thrown away then. */
export function database(): Database.Database {
  if (!shared.cucharaDatabase) {
    mkdirSync(dataFolder(), { recursive: true });
    const opened = openDatabase(databasePath());
    opened.prepare("DELETE FROM files WHERE state = 'receiving' OR removed_at < datetime('now', '-7 days')").run();
    shared.cucharaDatabase = opened;
  }
  return shared.cucharaDatabase;
}
