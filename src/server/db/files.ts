/** Opened files: their bytes in chunks, their report, and the edits laid over them. */
import Database from "better-sqlite3";
import { lineEndsIn } from "@/core/edits/look";
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
  /** What its edits come to; null where they change nothing. */
  editResultId: number | null;
  /** It was written here. */
  written: boolean;
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
  edit_result_id: number | null;
  written: number;
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
  editResultId: row.edit_result_id,
  written: row.written === 1,
});

const LISTED = "id, name, size_bytes, printer_id, created_at, summary, edits, version, edit_result_id, written";
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
  begin(name: string, printerId: number | null, written = false): number {
    const result = quickDatabase()
      .prepare("INSERT INTO files (name, state, printer_id, created_at, written) VALUES (?, 'receiving', ?, ?, ?)")
      .run(name, printerId, new Date().toISOString(), written ? 1 : 0);
    return Number(result.lastInsertRowid);
  },
  append(id: number, startByte: number, bytes: Uint8Array): void {
    quickDatabase()
      .prepare("INSERT INTO file_chunks (file_id, start_byte, bytes) VALUES (?, ?, ?)")
      .run(id, startByte, bytes);
    addLineCount(id, startByte, bytes);
  },
  /** Another text in the place of a program that was written here, with its report; its edits are laid anew. */
  rewrite(id: number, name: string, bytes: Uint8Array, read: { report: string; summary: FileSummary }): void {
    const connection = database();
    connection.transaction(() => {
      connection.prepare("DELETE FROM file_chunks WHERE file_id = ?").run(id);
      connection.prepare("DELETE FROM file_lines WHERE file_id = ?").run(id);
      for (let at = 0; at < bytes.length; at += CHUNK_BYTES) {
        const chunk = bytes.subarray(at, at + CHUNK_BYTES);
        connection.prepare("INSERT INTO file_chunks (file_id, start_byte, bytes) VALUES (?, ?, ?)").run(id, at, chunk);
        connection
          .prepare("INSERT INTO file_lines (file_id, start_byte, line_ends) VALUES (?, ?, ?)")
          .run(id, at, lineEndsIn(chunk));
      }
      connection
        .prepare(
          "UPDATE files SET name = ?, size_bytes = ?, report = ?, summary = ?, edits = '[]', edit_result_id = NULL, version = version + 1 WHERE id = ?",
        )
        .run(name, bytes.length, read.report, JSON.stringify(read.summary), id);
    })();
    tellChange("files", id);
  },
  /** Where each chunk begins and how many lines end in it; counted now for files from before such counts were kept. */
  lineCounts(id: number): { startByte: number; lineEnds: number }[] {
    const select = quickDatabase().prepare(
      "SELECT start_byte AS startByte, line_ends AS lineEnds FROM file_lines WHERE file_id = ? ORDER BY start_byte",
    );
    const counts = select.all(id) as { startByte: number; lineEnds: number }[];
    if (counts.length > 0) return counts;
    let at = 0;
    for (const chunk of fileChunks(database(), id)) {
      addLineCount(id, at, chunk);
      at += chunk.length;
    }
    return select.all(id) as { startByte: number; lineEnds: number }[];
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
   * Edits (JSON text) and what they come to, in one step. Refused if the file is not the version `seen` any more.
   * Gives the new version, or null for a file that is gone.
   */
  writeEdits(id: number, edits: string, resultId: number | null, seen?: number): number | null {
    const before = files.get(id);
    if (!before) return null;
    refuseStale("file", { ...before, edits: JSON.parse(before.edits) as unknown } as { version: number }, seen);
    database()
      .prepare("UPDATE files SET edits = ?, edit_result_id = ?, version = version + 1 WHERE id = ?")
      .run(edits, resultId, id);
    tellChange("files", id);
    return before.version + 1;
  },
  /** The printer a file is for, with what its edits come to there; the new version, or null for a file that is gone. */
  writePrinter(id: number, printerId: number, resultId: number | null, seen?: number): number | null {
    const before = files.get(id);
    if (!before) return null;
    refuseStale("file", before, seen);
    database()
      .prepare("UPDATE files SET printer_id = ?, edit_result_id = ?, version = version + 1 WHERE id = ?")
      .run(printerId, resultId, id);
    tellChange("files", id);
    return before.version + 1;
  },
  /** What came of the edits, as JSON text, if it was worked out for this; null if not. */
  editAnswer(id: number, holdsFor: string): string | null {
    const row = database()
      .prepare("SELECT edit_answer AS answer FROM files WHERE id = ? AND edit_answer_for = ?")
      .get(id, holdsFor) as { answer: string } | undefined;
    return row?.answer ?? null;
  },
  /** Writes down what came of the edits; it can be worked out again. */
  writeEditAnswer(id: number, answer: string, holdsFor: string): void {
    quickDatabase()
      .prepare("UPDATE files SET edit_answer = ?, edit_answer_for = ? WHERE id = ?")
      .run(answer, holdsFor, id);
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

function addLineCount(id: number, startByte: number, bytes: Uint8Array): void {
  quickDatabase()
    .prepare("INSERT OR REPLACE INTO file_lines (file_id, start_byte, line_ends) VALUES (?, ?, ?)")
    .run(id, startByte, lineEndsIn(bytes));
}

/** The chunks of a file in order from one that begins at `from` on, one at a time, from any connection. */
export function* fileChunks(connection: Database.Database, id: number, from = 0): Generator<Uint8Array> {
  const next = connection.prepare(
    "SELECT start_byte, bytes FROM file_chunks WHERE file_id = ? AND start_byte >= ? ORDER BY start_byte LIMIT 1",
  );
  let at = from;
  for (;;) {
    const row = next.get(id, at) as { start_byte: number; bytes: Buffer } | undefined;
    if (!row) return;
    yield row.bytes;
    at = row.start_byte + row.bytes.length;
  }
}

/** The bytes of a file from one of them on, chunk by chunk. */
export function* fileBytesFrom(connection: Database.Database, id: number, byte: number): Generator<Uint8Array> {
  const { start } = connection
    .prepare("SELECT max(start_byte) AS start FROM file_chunks WHERE file_id = ? AND start_byte <= ?")
    .get(id, byte) as { start: number | null };
  let skip = byte - (start ?? 0);
  for (const chunk of fileChunks(connection, id, start ?? 0)) {
    if (skip < chunk.length) yield chunk.subarray(skip);
    skip = Math.max(0, skip - chunk.length);
  }
}
