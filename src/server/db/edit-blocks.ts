/** The changes of edited files in blocks, written to a database and read from it, whatever connection it is. */
import Database from "better-sqlite3";
import { noSplices, SpliceBlock, SpliceSet } from "@/core/edits/splices/packed";

/** A block as it is handed over and kept. */
export interface KeptBlock extends Omit<SpliceBlock, "bytes"> {
  bytes: Uint8Array;
}

export const keptBlock = (block: SpliceBlock): KeptBlock => ({ ...block, bytes: block.bytes() });

/** Begins a result of a file, from any connection; its id. */
export function beginResult(connection: Database.Database, fileId: number): number {
  const put = connection.prepare("INSERT INTO edit_results (file_id, begun_at) VALUES (?, ?)");
  return Number(put.run(fileId, new Date().toISOString()).lastInsertRowid);
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
