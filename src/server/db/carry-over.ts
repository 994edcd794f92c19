/** What SQL alone cannot carry over from one version of the database to the next; each runs within the transaction of its migration. */
import Database from "better-sqlite3";
import { spliceSet } from "@/core/edits/splices/gather";
import type { Splice } from "@/core/edits/splices/splice";
import { beginResult, keptBlock, writeBlocks } from "./edit-blocks";

export const carryOver: Partial<Record<number, (database: Database.Database) => void>> = {
  16: packSplices,
};

/** The changes of edited files were one text each; now they lie in blocks. */
function packSplices(database: Database.Database): void {
  const ids = database.prepare("SELECT id FROM files WHERE splices <> '{\"splices\":[]}'").pluck().all() as number[];
  for (const id of ids) {
    const text = database.prepare("SELECT splices FROM files WHERE id = ?").pluck().get(id) as string;
    const set = spliceSet((JSON.parse(text) as { splices: Splice[] }).splices);
    if (!set.ok || set.value.count === 0) continue;
    const resultId = beginResult(database, id);
    writeBlocks(database, resultId, 0, set.value.blocks.map(keptBlock));
    database.prepare("UPDATE files SET edit_result_id = ? WHERE id = ?").run(resultId, id);
  }
}
