/** Windows and searches of a program of any size: the same lines as going through all of it. */
import fc from "fast-check";
import { lineEndsIn, linesOf, searchLines } from "@/core/edits/look";
import { compose } from "@/core/edits/splices/compose";
import { spliceSet } from "@/core/edits/splices/gather";
import { SpliceSet, splicesIn } from "@/core/edits/splices/packed";
import { Splice } from "@/core/edits/splices/splice";
import { applySplices, splicedChunks } from "@/core/edits/splices/splicer";
import { changesWithin, windowStart } from "@/core/edits/splices/windows";
import { bytesOf, textOf } from "../helpers/programs";

const text = Array.from({ length: 400 }, (_, i) => `G1 X${i} ; row ${i}`).join("\n") + "\n";
const bytes = bytesOf(text);

/** Chunks as a database would hold them, with their counts of line ends. */
function stored(size: number) {
  const chunks: { startByte: number; lineEnds: number; bytes: Uint8Array }[] = [];
  for (let at = 0; at < bytes.length; at += size) {
    const part = bytes.slice(at, at + size);
    chunks.push({ startByte: at, lineEnds: part.filter((byte) => byte === 10).length, bytes: part });
  }
  return chunks;
}

const starts = (() => {
  const found = [0];
  for (let at = bytes.indexOf(10); at >= 0; at = bytes.indexOf(10, at + 1)) found.push(at + 1);
  return found;
})();

/** Some lines taken out, replaced, or with others before them. */
const sets = fc
  .uniqueArray(fc.tuple(fc.integer({ min: 0, max: 399 }), fc.constantFrom("out", "other", "before")), {
    selector: ([line]) => line,
    maxLength: 25,
  })
  .map((changes): SpliceSet => {
    const splices = changes.map(([line, how]): Splice => {
      const [from, to] = [starts[line], starts[line + 1]];
      const removes = how === "before" ? 0 : to - from;
      const insert = how === "out" ? "" : how === "other" ? `G1 Y${line}\n` : "M117 a\nM117 b\n";
      return { atByte: from, removeBytes: removes, removeLines: removes > 0 ? 1 : 0, insert, line, by: "test" };
    });
    return setOf(splices);
  });

function setOf(splices: Splice[]): SpliceSet {
  const set = spliceSet(splices);
  if (!set.ok) throw new Error(set.message);
  return set.value;
}

test("a window is what stands there, wherever chunks end and whatever was changed before it", () => {
  fc.assert(
    fc.property(sets, fc.integer({ min: 40, max: 900 }), fc.integer({ min: 0, max: 380 }), (set, size, from) => {
      const chunks = stored(size);
      const { startByte, firstLine } = windowStart(chunks, set, from);
      const rest = chunks.filter((chunk) => chunk.startByte >= startByte).map((chunk) => chunk.bytes);
      const lines = linesOf(splicedChunks(rest, set, startByte), from - firstLine, 10);
      expect(lines).toEqual(
        textOf(applySplices(bytes, set))
          .split("\n")
          .slice(0, -1)
          .slice(from, from + 10),
      );
    }),
  );
});

test("a window of two changes on top of one another, the first within lines, is what stands there, too", () => {
  /** Some bytes within lines replaced, as plans do. */
  const within = fc.uniqueArray(fc.integer({ min: 0, max: 399 }), { maxLength: 40 }).map((lines) =>
    setOf(
      lines.map((line) => ({
        ...{ atByte: starts[line] + 3, removeBytes: 2, removeLines: 0, insert: "Z9", line, by: "plan" },
      })),
    ),
  );
  fc.assert(
    fc.property(within, fc.integer({ min: 2, max: 5 }), fc.integer({ min: 11, max: 300 }), (first, every, size) => {
      // Nothing has changed its length: every so many lines one is replaced as a whole.
      const whole = Array.from({ length: Math.floor(400 / every) }, (_, i) => i * every).map((line) => ({
        ...{ atByte: starts[line], removeBytes: starts[line + 1] - starts[line], removeLines: 1, line, by: "test" },
        insert: `G1 Y${line}\nM400\n`,
      }));
      const set = compose(first, setOf(whole));
      const all = textOf(applySplices(bytes, set)).split("\n").slice(0, -1);
      const chunks = stored(size);
      for (const from of [5, 90, 211, 340, 399]) {
        const { startByte, firstLine } = windowStart(chunks, set, from);
        const rest = chunks.filter((chunk) => chunk.startByte >= startByte).map((chunk) => chunk.bytes);
        const lines = linesOf(splicedChunks(rest, set, startByte), from - firstLine, 6);
        expect(lines).toEqual(all.slice(from, from + 6));
      }
    }),
    { numRuns: 300 },
  );
});

test("what was changed within a window stands beside what it was", () => {
  const splices: Splice[] = [
    { atByte: starts[3], removeBytes: starts[4] - starts[3], removeLines: 1, insert: "G1 Y3\n", line: 3, by: "test" },
    { atByte: starts[6], removeBytes: 0, removeLines: 0, insert: "M117 a\nM117 b\n", line: 6, by: "test" },
  ];
  const set = setOf(splices);
  const changes = changesWithin((from) => [bytes.subarray(from)], set, 0, 20);
  expect(changes).toEqual([
    { line: 3, lines: 1, before: ["G1 X3 ; row 3"] },
    { line: 6, lines: 2, before: [] },
  ]);
  expect(changesWithin((from) => [bytes.subarray(from)], set, 9, 5)).toEqual([]);
});

test("a search finds what a search line by line finds, in any case of letters and across the ends of chunks", () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 30, max: 700 }),
      fc.constantFrom("ROW 3", "x12", "; row 399", "nowhere", "1 X1"),
      (size, wanted) => {
        const { count, hits } = searchLines(
          stored(size).map((chunk) => chunk.bytes),
          wanted,
          1000,
        );
        const all = text
          .split("\n")
          .flatMap((line, i) => (line.toLowerCase().includes(wanted.toLowerCase()) ? [{ line: i, text: line }] : []));
        expect(hits).toEqual(all);
        expect(count).toBe(all.length);
      },
    ),
  );
});

test("letters beyond ASCII are found in either case, and news come chunk by chunk", () => {
  const own = bytesOf("; Über\n; über\n; uber\n");
  expect(searchLines([own], "ÜBER", 10).hits.map(({ line }) => line)).toEqual([0, 1]);
  const news: number[] = [];
  searchLines(
    stored(300).map((chunk) => chunk.bytes),
    "row",
    5,
    ({ hits }) => news.push(hits.length),
  );
  expect(news.length).toBeGreaterThan(20);
  expect(news.reduce((sum, one) => sum + one, 0)).toBe(5);
});

/** A program whose lines end in CR alone, in chunks of 700 bytes. */
const crBytes = bytesOf(text.replaceAll("\n", "\r"));
const crChunks = Array.from({ length: Math.ceil(crBytes.length / 700) }, (_, i) => ({
  startByte: i * 700,
  lineEnds: lineEndsIn(crBytes.slice(i * 700, (i + 1) * 700)),
  bytes: crBytes.slice(i * 700, (i + 1) * 700),
}));

test("lines that end in CR alone are lines: windows, searches and what is changed in them", () => {
  const found = searchLines(
    crChunks.map((chunk) => chunk.bytes),
    "ROW 39",
    1000,
  );
  expect(found.hits.map(({ line }) => line)).toEqual([39, ...Array.from({ length: 10 }, (_, i) => 390 + i)]);
  const inserted = {
    atByte: starts[6],
    removeBytes: 0,
    removeLines: 0,
    insert: "M117 a\rM117 b\r",
    line: 6,
    by: "test",
  };
  const gone = {
    atByte: starts[300],
    removeBytes: starts[301] - starts[300],
    removeLines: 1,
    insert: "",
    line: 300,
    by: "test",
  };
  const set = setOf([inserted, gone]);
  const { startByte, firstLine } = windowStart(crChunks, set, 350);
  const rest = crChunks.filter((chunk) => chunk.startByte >= startByte).map((chunk) => chunk.bytes);
  expect(linesOf(splicedChunks(rest, set, startByte), 350 - firstLine, 2)).toEqual([
    "G1 X349 ; row 349",
    "G1 X350 ; row 350",
  ]);
  expect(startByte).toBeGreaterThan(crBytes.length / 2);
  // Where ends were not counted, lines are counted from the beginning on.
  const uncounted = crChunks.map((chunk) => ({ ...chunk, lineEnds: 0 }));
  expect(windowStart(uncounted, set, 350)).toEqual({ startByte: 0, firstLine: 0 });
  expect(changesWithin((from) => [crBytes.subarray(from)], set, 0, 400)).toEqual([
    { line: 6, lines: 2, before: [] },
    { line: 302, lines: 0, before: ["G1 X300 ; row 300"] },
  ]);
});

test("a second change counts the lines that a first one put in, whatever ends them", () => {
  for (const end of ["\n", "\r", "\r\n"]) {
    const splice = (line: number, atByte: number): SpliceSet => {
      const insert = `M117 a${end}M117 b${end}`;
      return setOf([{ atByte, removeBytes: 0, removeLines: 0, insert, line, by: "test" }]);
    };
    const [first, second] = [splice(0, 0), splice(4, 2 * `M117 a${end}`.length + 2 * `G1 X1${end}`.length)];
    expect([...splicesIn(compose(first, second))].map(({ line }) => line)).toEqual([0, 2]);
  }
});

test("of an endless line no more than its beginning is kept, so that a search ends", () => {
  const part = bytesOf("G1 X1 ".repeat(10_000));
  let left = 500;
  const endless = (function* () {
    yield bytesOf("; ladle\n");
    while (left-- > 0) yield part;
    yield bytesOf("\n; ladle\n");
  })();
  expect(searchLines(endless, "ladle", 10).hits.map(({ line }) => line)).toEqual([0, 2]);
});

test.each([
  ["G28\nG90\n", 2],
  ["G28\r\nG90\r\n", 2],
  ["G28\rG90\rM83", 2],
  ["G28", 0],
  // The first half of CR LF, or an end of its own: the chunk does not tell.
  ["G28\r", 0],
])("line ends of %j: %d", (chunk, count) => {
  expect(lineEndsIn(bytesOf(chunk))).toBe(count);
});

test("a window far behind a hundred thousand changes is found without reading them", () => {
  // A line of ten bytes, and a line put in before each.
  const many = 100_000;
  const row = (line: number) => `G1 X${String(line).padStart(5, "0")}\n`;
  const whole = bytesOf(Array.from({ length: many }, (_, line) => row(line)).join(""));
  const set = setOf(
    Array.from({ length: many }, (_, line) => ({
      ...{ atByte: 10 * line, removeBytes: 0, removeLines: 0, insert: `M117 ${line}\n`, line, by: "test" },
    })),
  );
  let read = 0;
  const counted: SpliceSet = {
    count: set.count,
    blocks: set.blocks.map((block) => ({ ...block, bytes: () => (read++, block.bytes()) })),
  };
  const size = 50_000;
  const counts = Array.from({ length: whole.length / size }, (_, i) => ({
    startByte: i * size,
    lineEnds: lineEndsIn(whole.subarray(i * size, (i + 1) * size)),
  }));
  const from = 2 * 91_234;
  const { startByte, firstLine } = windowStart(counts, counted, from);
  const lines = linesOf(splicedChunks([whole.subarray(startByte)], counted, startByte), from - firstLine, 2);
  expect(lines).toEqual(["M117 91234", row(91_234).trim()]);
  const changes = changesWithin((byte) => [whole.subarray(byte)], counted, from, 2);
  expect(changes).toEqual([{ line: from, lines: 1, before: [] }]);
  expect(set.blocks.length).toBeGreaterThan(15);
  expect(read).toBeLessThan(2 * set.blocks.length);
  // The window itself needs few of them.
  read = 0;
  changesWithin((byte) => [whole.subarray(byte)], counted, from, 2);
  expect(read).toBeLessThanOrEqual(2);
});
