/**
 * What the edits of files come to: their changes in blocks, read one by one. A result is whole before its file has it; what no file has
 * any more is thrown away, but for the one before, which somebody may be reading.
 */
import Database from "better-sqlite3";
import { noSplices, SpliceBlock, SpliceSet } from "@/core/edits/splices/packed";
import { quickDatabase } from "./connection";

/** A block as it is handed over and kept. */
export interface KeptBlock extends Omit<SpliceBlock, "bytes"> {
  bytes: Uint8Array;
}

export const keptBlock = (block: SpliceBlock): KeptBlock => ({ ...block, bytes: block.bytes() });

/** Blocks written or thrown away in one slice: some milliseconds. */
const SLICE = 16;

/** Begins a result of a file, from any connection; its id. */
export function beginResult(connection: Database.Database, fileId: number): number {
  return Number(connection.prepare("INSERT INTO edit_results (file_id) VALUES (?)").run(fileId).lastInsertRowid);
}

/** Writes the next blocks of a result, the first with number `from`. */
export function writeBlocks(
  connection: Database.Database,
  resultId: number,
  from: number,
  blocks: readonly KeptBlock[],
): void {
  const put = connection.prepare(
    `INSERT INTO edit_blocks (result_id, number, count, at_byte, until_byte, line, longer_by, bytes)
     VALUES (@resultId, @number, @count, @atByte, @untilByte, @line, @longerBy, @bytes)`,
  );
  connection.transaction(() => {
    blocks.forEach((block, i) => put.run({ ...block, resultId, number: from + i }));
  })();
}

/** Keeps what a file's edits come to, letting others have their turns; its id, null where nothing changes. */
export async function keepResult(fileId: number, blocks: readonly KeptBlock[]): Promise<number | null> {
  if (blocks.length === 0) return null;
  const connection = quickDatabase();
  const id = beginResult(connection, fileId);
  for (let at = 0; at < blocks.length; at += SLICE) {
    writeBlocks(connection, id, at, blocks.slice(at, at + SLICE));
    await new Promise((resolve) => setImmediate(resolve));
  }
  return id;
}

/** The changes of a result, from any connection; none where a file has no result. Its blocks are read when they are asked for. */
export function splicesOfResult(connection: Database.Database, resultId: number | null): SpliceSet {
  if (resultId === null) return noSplices;
  const rows = connection
    .prepare(
      `SELECT number, count, at_byte AS atByte, until_byte AS untilByte, line, longer_by AS longerBy
       FROM edit_blocks WHERE result_id = ? ORDER BY number`,
    )
    .all(resultId) as (Omit<SpliceBlock, "bytes"> & { number: number })[];
  const select = connection.prepare("SELECT bytes FROM edit_blocks WHERE result_id = ? AND number = ?");
  const blocks = rows.map(({ number, ...block }) => ({
    ...block,
    bytes(): Uint8Array {
      const row = select.get(resultId, number) as { bytes: Buffer } | undefined;
      if (!row) throw new Error("The edits of this file have changed twice since it was begun to be read.");
      return row.bytes;
    },
  }));
  return { count: rows.reduce((sum, { count }) => sum + count, 0), blocks };
}

/** Throws away, a slice at a time, results that no file has and that are older than the newest `spared` of theirs. */
export function* throwResultsAway(spared: number, fileId: number | null = null): Generator<void> {
  const doomed = quickDatabase()
    .prepare(
      `SELECT r.id FROM edit_results r JOIN files f ON f.id = r.file_id
       WHERE (f.edit_result_id IS NULL OR r.id <> f.edit_result_id) AND (@fileId IS NULL OR f.id = @fileId)
         AND (SELECT COUNT(*) FROM edit_results n WHERE n.file_id = f.id AND n.id > r.id) >= @spared`,
    )
    .all({ fileId, spared }) as { id: number }[];
  const part = quickDatabase().prepare(
    "DELETE FROM edit_blocks WHERE result_id = @id AND number IN (SELECT number FROM edit_blocks WHERE result_id = @id LIMIT @slice)",
  );
  for (const { id } of doomed) {
    while (part.run({ id, slice: SLICE }).changes > 0) yield;
    quickDatabase().prepare("DELETE FROM edit_results WHERE id = ?").run(id);
    yield;
  }
}
