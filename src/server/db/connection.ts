/** The database: one SQLite file, plain SQL, numbered migrations. */
import Database from "better-sqlite3";
import { mkdirSync } from "node:fs";
import { join } from "node:path";
import { log } from "../log";
import { arriving } from "./arriving";
import { migrate, newestVersion, versionOf } from "./migrate";
import { databasePath, dataFolder } from "./place";
import { finishSwap, sweep } from "./swap";
import { StorageTrouble, storageTrouble } from "./trouble";

/** Another program in the way holds this one up so long at most; then the request is refused with a sentence. */
const BUSY_MS = 25;
/** A database of the time before room was given back is made anew at a start, if it is no larger than this. */
const REMADE_BYTES = 60_000_000;
/** After a failure it is looked again so often whether it has been mended. */
const RETRY_MS = 1000;

/** A connection as this program uses them. `durable`: what is acknowledged survives a power cut, too. */
function connect(path: string, durable: boolean): Database.Database {
  const database = new Database(path);
  database.pragma(`busy_timeout = ${BUSY_MS}`);
  database.pragma("auto_vacuum = INCREMENTAL");
  database.pragma("journal_mode = WAL");
  database.pragma(`synchronous = ${durable ? "FULL" : "NORMAL"}`);
  database.pragma("foreign_keys = ON");
  return database;
}

/**
 * Opens a database and brings it up to date. One that a newer program has written is refused with a `StorageTrouble` and left as it is.
 */
export function openDatabase(path: string): Database.Database {
  const database = new Database(path);
  try {
    const version = versionOf(database);
    if (version > newestVersion()) {
      throw new StorageTrouble(
        `The database was written by a newer Cuchara (version ${version}, this one knows ${newestVersion()}). It was left unchanged: start the newer program, or restore an older backup.`,
      );
    }
  } finally {
    database.close();
  }
  const opened = connect(path, true);
  migrate(opened);
  return opened;
}

/**
 * Keeps every other program off these data until this one ends, however it ends: the lock is the operating system's, on an open file.
 */
function holdFolder(folder: string): Database.Database {
  const lock = new Database(join(folder, "in-use.lock"));
  try {
    lock.pragma("busy_timeout = 0");
    lock.pragma("journal_mode = DELETE");
    lock.exec("BEGIN EXCLUSIVE");
    return lock;
  } catch (error) {
    lock.close();
    if ((error as { code?: string }).code !== "SQLITE_BUSY") throw error;
    throw new StorageTrouble(
      `Another Cuchara is running on the data in ${folder}. Use that one, or end it, then try again.`,
    );
  }
}

interface Store {
  lock: Database.Database;
  /** For what is acknowledged. */
  durable: Database.Database;
  /** For what may be lost with the power: progress, talk, uploads that are not yet whole. */
  quick: Database.Database;
}

// One store per process; kept on globalThis because route handlers are loaded apart from one another.
const shared = globalThis as { cucharaStore?: Store; cucharaTrouble?: { error: unknown; atMs: number } };

function openStore(): Store {
  const folder = dataFolder();
  mkdirSync(folder, { recursive: true });
  const lock = holdFolder(folder);
  try {
    const finished = finishSwap();
    if (finished) log().warn({ finished }, "a backup that was being put in place is in place now");
    for (const word of ["copying", "receiving", "checked", "restoring"] as const) sweep(word);
    const durable = openDatabase(databasePath());
    giveRoomBackFromNowOn(durable);
    durable.prepare("DELETE FROM files WHERE state = 'receiving'").run();
    arriving.drop(durable);
    return { lock, durable, quick: connect(databasePath(), false) };
  } catch (error) {
    lock.close();
    throw error;
  }
}

/** Databases made before can give no room back until they are made anew, once. */
function giveRoomBackFromNowOn(database: Database.Database): void {
  const ofPragma = (name: string) => database.pragma(name, { simple: true }) as number;
  if (ofPragma("auto_vacuum") !== 0 || ofPragma("page_count") * ofPragma("page_size") > REMADE_BYTES) return;
  database.pragma("auto_vacuum = INCREMENTAL");
  database.exec("VACUUM");
}

function store(): Store {
  if (shared.cucharaStore) return shared.cucharaStore;
  const { cucharaTrouble: before } = shared;
  if (before && Date.now() - before.atMs < RETRY_MS) throw before.error;
  try {
    shared.cucharaStore = openStore();
    shared.cucharaTrouble = undefined;
    return shared.cucharaStore;
  } catch (error) {
    shared.cucharaTrouble = { error, atMs: Date.now() };
    throw error;
  }
}

/** The process's connection, opened at first use; throws what `storageTrouble` has a sentence for if it cannot be. */
export function database(): Database.Database {
  return store().durable;
}

/** A connection for what may be lost with the power, though never by a kill. */
export function quickDatabase(): Database.Database {
  return store().quick;
}

/** Why the database cannot be used; null if it can. */
export function databaseTrouble(): string | null {
  try {
    database().prepare("SELECT COUNT(*) FROM sqlite_schema").get();
    return null;
  } catch (error) {
    return storageTrouble(error) ?? "The database cannot be opened; the log says more.";
  }
}

/** Puts everything into the one file, so that a copy of it holds all. Does nothing while a reader is in the way. */
export function foldIntoOneFile(): void {
  shared.cucharaStore?.durable.pragma("wal_checkpoint(TRUNCATE)");
}

/** Closes the database with everything in the one file; the next use opens it again. */
export function closeStore(): void {
  const { cucharaStore: open } = shared;
  if (!open) return;
  shared.cucharaStore = undefined;
  open.quick.close();
  try {
    open.durable.pragma("wal_checkpoint(TRUNCATE)");
  } finally {
    open.durable.close();
    open.lock.close();
  }
}
