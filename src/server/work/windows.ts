/** Windows of a file's lines, as it came or with its edits: found by the counts of its chunks, so that no jump reads what stands before it. */
import { changesWithin, linesOf, WindowChange, windowStart } from "@/core/edits/look";
import { splicedChunks, SpliceSet } from "@/core/edits/splice";
import { database } from "../db/connection";
import { fileBytesFrom, fileChunks, files, StoredFile } from "../db/files";

/** The parsed splices of the file that was looked at last: a reader scrolls through one. */
const shared = globalThis as { cucharaSplices?: { id: number; version: number; set: SpliceSet } };

export function splicesOf({ id, version }: StoredFile): SpliceSet {
  const known = shared.cucharaSplices;
  if (known?.id === id && known.version === version) return known.set;
  const set = JSON.parse(files.splices(id)) as SpliceSet;
  shared.cucharaSplices = { id, version, set };
  return set;
}

export function windowOfLines(
  file: StoredFile,
  isEdited: boolean,
  from: number,
  count: number,
): { lines: string[]; changes: WindowChange[] } {
  const set: SpliceSet = isEdited ? splicesOf(file) : { splices: [] };
  const counts = files.lineCounts(file.id);
  const { startByte, firstLine } = windowStart(counts, set, from);
  const chunks = splicedChunks(fileChunks(database(), file.id, startByte), set, startByte);
  const lines = linesOf(chunks, from - firstLine, count);
  return {
    lines,
    changes: isEdited ? changesWithin((byte) => fileBytesFrom(database(), file.id, byte), set, from, count) : [],
  };
}
