/** Windows of a file's lines, as it came or with its edits: found by the counts of its chunks, so that no jump reads what stands before it. */
import { linesOf } from "@/core/edits/look";
import { noSplices, SpliceSet } from "@/core/edits/splices/packed";
import { splicedChunks } from "@/core/edits/splices/splicer";
import { changesWithin, WindowChange, windowStart } from "@/core/edits/splices/windows";
import { database } from "../db/connection";
import { splicesOfResult } from "../db/edit-blocks";
import { fileBytesFrom, fileChunks, files, StoredFile } from "../db/files";

/** Where the changes of the file that was looked at last stand: a reader scrolls through one. */
const shared = globalThis as { cucharaSplices?: { resultId: number; set: SpliceSet } };

function splicesOf({ editResultId: resultId }: StoredFile): SpliceSet {
  if (resultId === null) return noSplices;
  const known = shared.cucharaSplices;
  if (known?.resultId === resultId) return known.set;
  const set = splicesOfResult(database(), resultId);
  shared.cucharaSplices = { resultId, set };
  return set;
}

export function windowOfLines(
  file: StoredFile,
  isEdited: boolean,
  from: number,
  count: number,
): { lines: string[]; changes: WindowChange[] } {
  const set = isEdited ? splicesOf(file) : noSplices;
  const counts = files.lineCounts(file.id);
  const { startByte, firstLine } = windowStart(counts, set, from);
  const chunks = splicedChunks(fileChunks(database(), file.id, startByte), set, startByte);
  const lines = linesOf(chunks, from - firstLine, count);
  return {
    lines,
    changes: isEdited ? changesWithin((byte) => fileBytesFrom(database(), file.id, byte), set, from, count) : [],
  };
}
