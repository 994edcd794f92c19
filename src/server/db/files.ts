/** Opened files: their bytes in chunks, their report, and the edits laid over them. */
import Database from "better-sqlite3";
import { tellChange } from "../changes";
import { database, quickDatabase } from "./connection";
import { readRow, readRows, refuseStale } from "./rows";

export const CHUNK_BYTES = 1 << 20;

/** What lists show of a file. */
export interface FileSummary {
  layers: number;
  topMm: number;
  seconds: number;
  filamentMm: number;
  cucharaLines: number;
}

export interface StoredFile {
  id: number;
  name: string;
  sizeBytes: number;
  printerId: number | null;
  createdAt: string;
  summary: FileSummary | null;
  /** JSON text of the edits as they were sent. */
  edits: string;
  /** Counts its changes. */
  version: number;
}

interface Row {
  id: number;
  name: string;
  size_bytes: number;
  printer_id: number | null;
  created_at: string;
  summary: string | null;
  edits: string;
  version: number;
}

const read = (row: Row): StoredFile => ({
  id: row.id,
  name: row.name,
  sizeBytes: row.size_bytes,
  printerId: row.printer_id,
  createdAt: row.created_at,
  summary: row.summary === null ? null : (JSON.parse(row.summary) as FileSummary),
  edits: row.edits,
  version: row.version,
});

const LISTED = "id, name, size_bytes, printer_id, created_at, summary, edits, version";
const READY = "state = 'ready' AND removed_at IS NULL";

export const files = {
  /** Newest first. */
  list(): StoredFile[] {
    const rows = database().prepare(`SELECT ${LISTED} FROM files WHERE ${READY} ORDER BY id DESC`).all() as Row[];
    return readRows("file", rows, read);
  },
  get(id: number): StoredFile | null {
    const row = database().prepare(`SELECT ${LISTED} FROM files WHERE id = ? AND ${READY}`).get(id) as Row | undefined;
    return readRow("file", row, read);
  },
  /** Opens a file for receiving; until `finish` nobody sees it, and a new start throws it away. */
  begin(name: string, printerId: number | null): number {
    const result = quickDatabase()
      .prepare(
        `INSERT INTO files (name, state, printer_id, created_at, splices) VALUES (?, 'receiving', ?, ?, '{"splices":[]}')`,
      )
      .run(name, printerId, new Date().toISOString());
    return Number(result.lastInsertRowid);
  },
  append(id: number, startByte: number, bytes: Uint8Array): void {
    quickDatabase()
      .prepare("INSERT INTO file_chunks (file_id, start_byte, bytes) VALUES (?, ?, ?)")
      .run(id, startByte, bytes);
  },
  /** Makes a received file visible, in one step with its report (JSON text); whether it was still there. */
  finish(id: number, sizeBytes: number, read: { report: string; summary: FileSummary }): boolean {
    const { changes } = database()
      .prepare("UPDATE files SET state = 'ready', size_bytes = ?, report = ?, summary = ? WHERE id = ?")
      .run(sizeBytes, read.report, JSON.stringify(read.summary), id);
    tellChange("files", id);
    return changes > 0;
  },
  /** The report of a file that was read again. */
  writeReport(id: number, report: string, summary: FileSummary): void {
    database()
      .prepare("UPDATE files SET report = ?, summary = ? WHERE id = ?")
      .run(report, JSON.stringify(summary), id);
  },
  /** Throws a file away for good, for uploads that were cancelled or are no programs. */
  discard(id: number): void {
    quickDatabase().prepare("DELETE FROM files WHERE id = ?").run(id);
  },
  /** The report as JSON text; null for an unknown file. */
  report(id: number): string | null {
    const row = database().prepare(`SELECT report FROM files WHERE id = ? AND ${READY}`).get(id) as
      { report: string } | undefined;
    return row?.report ?? null;
  },
  /**
   * Edits and the splices worked out from them, in one step; JSON texts. Refused if the file is not the version `seen` any more.
   * Gives the new version, or null for a file that is gone.
   */
  writeEdits(id: number, edits: string, splices: string, seen?: number): number | null {
    const before = files.get(id);
    if (!before) return null;
    refuseStale("file", { ...before, edits: JSON.parse(before.edits) as unknown } as { version: number }, seen);
    database()
      .prepare("UPDATE files SET edits = ?, splices = ?, version = version + 1 WHERE id = ?")
      .run(edits, splices, id);
    tellChange("files", id);
    return before.version + 1;
  },
  splices(id: number): string {
    const row = database().prepare("SELECT splices FROM files WHERE id = ?").get(id) as { splices: string };
    return row.splices;
  },
  remove(id: number): boolean {
    const result = database()
      .prepare(`UPDATE files SET removed_at = ?, version = version + 1 WHERE id = ? AND ${READY}`)
      .run(new Date().toISOString(), id);
    if (result.changes > 0) tellChange("files", id);
    return result.changes > 0;
  },
  restore(id: number): StoredFile | null {
    database().prepare("UPDATE files SET removed_at = NULL, version = version + 1 WHERE id = ?").run(id);
    tellChange("files", id);
    return files.get(id);
  },
};

/** The chunks of a file in order, one at a time, from any connection. */
export function* fileChunks(connection: Database.Database, id: number): Generator<Uint8Array> {
  const next = connection.prepare(
    "SELECT start_byte, bytes FROM file_chunks WHERE file_id = ? AND start_byte >= ? ORDER BY start_byte LIMIT 1",
  );
  let from = 0;
  for (;;) {
    const row = next.get(id, from) as { start_byte: number; bytes: Buffer } | undefined;
    if (!row) return;
    yield row.bytes;
    from = row.start_byte + row.bytes.length;
  }
}
