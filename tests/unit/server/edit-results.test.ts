/** What the edits of a file come to: kept in blocks, whole before the file has it, and carried over from the form it had before. */
import Database from "better-sqlite3";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { SpliceGatherer } from "@/core/edits/splices/gather";
import { sameSplices, SpliceSet, splicesIn } from "@/core/edits/splices/packed";
import { Splice } from "@/core/edits/splices/splice";
import { closeStore, database } from "@/server/db/connection";
import { keptBlock, splicesOfResult } from "@/server/db/edit-blocks";
import { holdResult, keepResult, throwResultsAway } from "@/server/db/edit-results";
import { files } from "@/server/db/files";
import { migrate } from "@/server/db/migrate";

let folder: string;
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), "cuchara-results-"));
  process.env.CUCHARA_DATA = folder;
});
afterEach(() => {
  closeStore();
  rmSync(folder, { recursive: true, force: true });
});

/** A change of so many lines of ten bytes each. */
function changeOf(lines: number, insert = "G1 X1\n"): SpliceSet {
  const gatherer = new SpliceGatherer();
  for (let line = 0; line < lines; line++) {
    gatherer.add({ atByte: 10 * line, removeBytes: 10, removeLines: 1, insert, line, layer: line >> 8, by: "move" });
  }
  const set = gatherer.finish();
  if (!set.ok) throw new Error(set.message);
  return set.value;
}

const summary = { layers: 1, topMm: 0.2, seconds: 1, filamentMm: 1, cucharaLines: 0 };

function opened(): number {
  const id = files.begin("any.gcode", null);
  files.append(id, 0, Buffer.from("G1 X2 E1;\n".repeat(100)));
  files.finish(id, 1000, { report: "{}", summary });
  return id;
}

const results = () => database().prepare("SELECT id FROM edit_results ORDER BY id").pluck().all() as number[];
const blocksOf = (id: number) =>
  database().prepare("SELECT COUNT(*) FROM edit_blocks WHERE result_id = ?").pluck().get(id) as number;

test("comes back as it was kept, block by block, and only the blocks that are looked at are read", async () => {
  const id = opened();
  const set = changeOf(30_000);
  const resultId = await keepResult(id, set.blocks.map(keptBlock));
  files.writeEdits(id, "[]", resultId);
  expect(blocksOf(resultId!)).toBe(set.blocks.length);
  expect(set.blocks.length).toBeGreaterThan(3);
  expect(sameSplices(splicesOfResult(database(), files.get(id)!.editResultId), set)).toBe(true);
  database().prepare("DELETE FROM edit_blocks WHERE result_id = ? AND number > 0").run(resultId);
  const first = splicesIn(splicesOfResult(database(), resultId)).next().value as Splice;
  expect(first).toEqual({ ...first, atByte: 0, insert: "G1 X1\n", by: "move" });
  expect(await keepResult(id, [])).toBeNull();
  expect(splicesOfResult(database(), null).count).toBe(0);
});

test("the one before stays for who still reads it, earlier ones go, and one that is not yet had by its file stays", async () => {
  const id = opened();
  const other = opened();
  const ofOther = await keepResult(other, changeOf(5).blocks.map(keptBlock));
  files.writeEdits(other, "[]", ofOther);
  const kept: number[] = [];
  for (let turn = 0; turn < 4; turn++) {
    kept.push((await keepResult(id, changeOf(5000).blocks.map(keptBlock)))!);
    files.writeEdits(id, "[]", kept[turn]);
  }
  for (const _slice of throwResultsAway(2, { fileId: id })) void _slice;
  expect(results()).toEqual([ofOther, kept[2], kept[3]]);
  expect(blocksOf(kept[0])).toBe(0);
  // The next one is written, and the file does not have it yet.
  const next = (await keepResult(id, changeOf(7).blocks.map(keptBlock)))!;
  for (const _slice of throwResultsAway(2)) void _slice;
  expect(results()).toEqual([ofOther, kept[3], next]);
  expect(sameSplices(splicesOfResult(database(), kept[3]), changeOf(5000))).toBe(true);
  // With the file its results go.
  files.discard(id);
  expect(results()).toEqual([ofOther]);
  expect(blocksOf(next)).toBe(0);
});

test("what is being handed out stays whatever is changed meanwhile; what is loose for long goes", async () => {
  const id = opened();
  const first = (await keepResult(id, changeOf(5000).blocks.map(keptBlock)))!;
  files.writeEdits(id, "[]", first);
  const [letGo, letGoToo] = [holdResult(first), holdResult(first)];
  for (let turn = 0; turn < 3; turn++)
    files.writeEdits(id, "[]", await keepResult(id, changeOf(9).blocks.map(keptBlock)));
  const tidy = (before = "") => {
    for (const _slice of throwResultsAway(2, { before })) void _slice;
  };
  tidy();
  expect(results()).toContain(first);
  expect(sameSplices(splicesOfResult(database(), first), changeOf(5000))).toBe(true);
  letGo();
  letGo();
  tidy();
  expect(results()).toContain(first);
  letGoToo();
  tidy();
  expect(results()).not.toContain(first);
  // Nothing is edited any more: the one before goes when nobody can be reading it.
  files.writeEdits(id, "[]", null);
  tidy();
  expect(results().length).toBeGreaterThan(0);
  tidy(new Date(Date.now() + 1000).toISOString());
  expect(results()).toEqual([]);
});

test("edited files of an earlier version keep their changes, letter by letter", () => {
  const old = new Database(join(folder, "old.db"));
  migrate(old, 15);
  const splices: Splice[] = [
    { atByte: 3, removeBytes: 0, removeLines: 0, insert: "M117 größer\n", line: 0, layer: 0, by: "plan" },
    { atByte: 9, removeBytes: 12, removeLines: 1, insert: "", line: 2, by: "lines taken out" },
  ];
  const put = old.prepare(
    "INSERT INTO files (name, state, created_at, edits, splices) VALUES ('a.gcode', 'ready', '', '[]', ?)",
  );
  const edited = put.run(JSON.stringify({ splices })).lastInsertRowid;
  const plain = put.run('{"splices":[]}').lastInsertRowid;
  migrate(old);
  const resultOf = (id: unknown) =>
    old.prepare("SELECT edit_result_id FROM files WHERE id = ?").pluck().get(id) as number | null;
  expect([...splicesIn(splicesOfResult(old, resultOf(edited)))]).toEqual(splices);
  expect(resultOf(plain)).toBeNull();
  old.close();
});
