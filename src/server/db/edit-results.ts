/**
 * What the edits of files come to: their changes in blocks, read one by one. A result is whole before its file has it; what no file has
 * any more is thrown away, but for the one before, which somebody may be reading.
 */
import { quickDatabase } from "./connection";
import { needRoom } from "./room";
import { beginResult, KeptBlock, writeBlocks } from "./edit-blocks";

/** Blocks written or thrown away in one slice: some milliseconds. */
const SLICE = 16;

/** Keeps what a file's edits come to, letting others have their turns; its id, null where nothing changes. */
export async function keepResult(fileId: number, blocks: readonly KeptBlock[]): Promise<number | null> {
  if (blocks.length === 0) return null;
  needRoom(blocks.reduce((sum, { bytes }) => sum + bytes.length, 0));
  const connection = quickDatabase();
  const id = beginResult(connection, fileId);
  for (let at = 0; at < blocks.length; at += SLICE) {
    writeBlocks(connection, id, at, blocks.slice(at, at + SLICE));
    await new Promise((resolve) => setImmediate(resolve));
  }
  return id;
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
