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

/** Results that are being handed out, and to how many. */
const shared = globalThis as { cucharaHeldResults?: Map<number, number> };
const held = () => (shared.cucharaHeldResults ??= new Map<number, number>());

/** Keeps a result from being thrown away while it is handed out; gives what lets it go. */
export function holdResult(resultId: number | null): () => void {
  if (resultId === null) return () => undefined;
  held().set(resultId, (held().get(resultId) ?? 0) + 1);
  let isHeld = true;
  return () => {
    if (!isHeld) return;
    isHeld = false;
    const left = held().get(resultId)! - 1;
    if (left > 0) held().set(resultId, left);
    else held().delete(resultId);
  };
}

/** Nobody works on what was begun so long ago, ms. */
export const LOOSE_MS = 6 * 3_600_000;

/**
 * Throws away, a slice at a time, results that no file has and nobody is handed: those that are older than the newest `spared` of their file,
 * and all that were begun before a time (ISO 8601).
 */
export function* throwResultsAway(
  spared: number,
  { fileId = null, before = "" }: { fileId?: number | null; before?: string } = {},
): Generator<void> {
  const loose = quickDatabase()
    .prepare(
      `SELECT r.id FROM edit_results r JOIN files f ON f.id = r.file_id
       WHERE (f.edit_result_id IS NULL OR r.id <> f.edit_result_id) AND (@fileId IS NULL OR f.id = @fileId)
         AND (r.begun_at < @before
           OR (SELECT COUNT(*) FROM edit_results n WHERE n.file_id = f.id AND n.id > r.id) >= @spared)`,
    )
    .all({ fileId, spared, before }) as { id: number }[];
  const doomed = loose.filter(({ id }) => !held().has(id));
  const part = quickDatabase().prepare(
    "DELETE FROM edit_blocks WHERE result_id = @id AND number IN (SELECT number FROM edit_blocks WHERE result_id = @id LIMIT @slice)",
  );
  for (const { id } of doomed) {
    while (part.run({ id, slice: SLICE }).changes > 0) yield;
    quickDatabase().prepare("DELETE FROM edit_results WHERE id = ?").run(id);
    yield;
  }
}
