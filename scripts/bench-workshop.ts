/**
 * The Workshop's part of `npm run bench`, on a file of 100 MB: opening it, a window after a jump, a search, and each edit, as ratios to going
 * through the lines of the file once.
 */
import { createReadStream, mkdtempSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { createInterface } from "node:readline";
import { applyEdits, editsSchema } from "../src/core/edits";
import { linesOf, searchLines } from "../src/core/edits/look";
import { readChunks, seenWith } from "../src/core/edits/see-file";
import { noSplices, SpliceSet } from "../src/core/edits/splices/packed";
import { splicedChunks, Splicer } from "../src/core/edits/splices/splicer";
import { windowStart } from "../src/core/edits/splices/windows";
import { kindsOf } from "../src/core/laid/kinds";
import { findBridges } from "../src/core/laid/over-air";
import { limitsFor } from "../src/core/motion/limits";
import { reportOf } from "../src/core/report/report";
import { headOf } from "../src/core/shelf/printer";
import { printerSchema } from "../src/core/shelf/printer-schema";
import { demoPrinters } from "../src/server/demo/scenario";
import { compareTraces } from "../src/core/trace/compare";
import { TraceWalk } from "../src/core/trace/walk";
import { median, row, timed } from "./bench-tools";
import { writeLarge } from "./large-file";

const MEGABYTES = 100;
const CHUNK_BYTES = 1 << 20;
const printer = printerSchema.parse(demoPrinters[0]);
const folder = mkdtempSync(join(tmpdir(), "cuchara-bench-"));
const path = join(folder, "large.gcode");

/** The file as the database holds it: chunks in memory, so that no disk is measured. */
function chunksOf(bytes: Uint8Array): Uint8Array[] {
  const chunks: Uint8Array[] = [];
  for (let at = 0; at < bytes.length; at += CHUNK_BYTES) chunks.push(bytes.subarray(at, at + CHUNK_BYTES));
  return chunks;
}

/** Edits that look at what lies beside and below what is laid. */
const byGeometry = new Set(["bridges", "outer-walls"]);

async function main(): Promise<void> {
  writeLarge(path, MEGABYTES);
  const lines: number[] = [];
  for (let round = 0; round < 3; round++) {
    const started = performance.now();
    let count = 0;
    for await (const line of createInterface({ input: createReadStream(path, { highWaterMark: CHUNK_BYTES }) })) {
      count += line.length > 0 ? 1 : 0;
    }
    lines.push(performance.now() - started + 0 * count);
  }
  const streaming = median(lines);
  const chunks = chunksOf(new Uint8Array(readFileSync(path)));
  console.log(
    `\nThe Workshop, on a file of ${MEGABYTES} MB (streaming is Node's readline over its lines: ${streaming.toFixed(0)} ms)\n`,
  );

  const opened = timed(() => {
    const tables = readChunks(chunks, printer, { expectedBytes: MEGABYTES * 1e6 });
    return reportOf(tables, limitsFor(printer), headOf(printer));
  }, 1);
  row("opening it (read, report, clearance) ÷ streaming", (opened / streaming).toFixed(2), "aim ≤ 1.6");

  const counts = chunks.map((chunk, i) => ({ startByte: i * CHUNK_BYTES, lineEnds: lineEndsIn(chunk) }));
  const total = counts.reduce((sum, { lineEnds }) => sum + lineEnds, 0);
  const jumps = [0.1, 0.5, 0.99].map((share) =>
    timed(() => {
      const from = Math.floor(total * share);
      const { startByte, firstLine } = windowStart(counts, noSplices, from);
      return linesOf(chunks.slice(startByte / CHUNK_BYTES), from - firstLine, 200);
    }),
  );
  row("first window of the program after a jump", `${Math.max(...jumps).toFixed(1)} ms`, "aim ≤ 50 ms");
  row(
    "search through all of it ÷ streaming",
    (timed(() => searchLines(chunks, "x103.4", 500)) / streaming).toFixed(2),
    "aim ≤ 1.2",
  );

  const tables = readChunks(chunks, printer, { expectedBytes: MEGABYTES * 1e6 });
  const { report } = reportOf(tables, limitsFor(printer), headOf(printer));
  const reading = timed(() => readChunks(chunks, printer, { expectedBytes: MEGABYTES * 1e6 }), 1);
  const traced = timed(() => {
    const walk = new TraceWalk(tables);
    while (walk.next());
  }, 1);
  row("reading it and its trace ÷ reading it", ((reading + traced) / reading).toFixed(2), "aim ≤ 1.4");
  const compared = timed(() => compareTraces(tables, tables, {}), 1);
  row("two files held against each other at every bead ÷ reading one", (compared / reading).toFixed(2));
  const kinds = timed(() => kindsOf(tables), 1);
  row("kinds of line by geometry ÷ streaming", (kinds / streaming).toFixed(2));
  row("bridges ÷ streaming", (timed(() => findBridges(tables), 1) / streaming).toFixed(2));
  const top = report.layers.length;
  const edits: [string, object][] = [
    ["fan", { kind: "fan", act: "off", fromLayer: 10 }],
    ["find", { kind: "find", find: { command: "M106" }, act: { comment: "was" } }],
    ["display", { kind: "display", text: "{{layer}}/{{layers}}", countsFrom: 1 }],
    ["waits", { kind: "waits", inside: true, order: true }],
    ["pause", { kind: "pause", at: { layer: 40, countsFrom: 1 } }],
    ["tools", { kind: "tools", tools: [{ tool: 0, laterC: 205 }] }],
    ["start-end", { kind: "start-end", start: true, end: true }],
    [
      "height-plan",
      { kind: "height-plan", changes: [{ from: { heightMm: 5 }, settings: { nozzleTemperature: 205 } }] },
    ],
    ["scale-speed, ten layers", { kind: "scale-speed", percent: 80, fromLayer: 20, toLayer: 30 }],
    [
      "scale-flow of walls, ten layers",
      { kind: "scale-flow", percent: 95, lines: ["outer-wall"], fromLayer: 20, toLayer: 30 },
    ],
    ["bridges", { kind: "bridges", cooler: 15, layersBefore: 2, layers: [{ feedPercent: 60 }], only: "strands" }],
    ["move, all of it", { kind: "move", byMm: { x: 1, y: 0, z: 0 } }],
    ["outer walls in two passes, all of it", { kind: "outer-walls", passes: 2 }],
  ];
  for (const [name, edit] of edits) {
    const original = seenWith(report, () => chunks, printer);
    let outcome = "";
    let set: SpliceSet = noSplices;
    const worked = timed(() => {
      const applied = applyEdits(editsSchema.parse([edit]), { original, read: () => original }, printer);
      outcome = applied.ok ? "" : applied.message;
      if (applied.ok) set = applied.value.splices;
    }, 1);
    const whole = timed(() => {
      let bytes = 0;
      for (const piece of splicedChunks(chunks, set)) bytes += piece.length;
      return bytes;
    }, 1);
    row(
      `${name}: worked out, and the whole result ÷ streaming`,
      `${(worked / streaming).toFixed(2)} ${((worked + whole) / streaming).toFixed(2)}`,
      outcome || (byGeometry.has((edit as { kind: string }).kind) || "lines" in edit ? "aim ≤ 4" : "aim ≤ 2.5"),
    );
  }
  const before = process.memoryUsage().arrayBuffers;
  const splicer = new Splicer(noSplices);
  let most = 0;
  for (const chunk of chunks) {
    splicer.push(chunk);
    most = Math.max(most, process.memoryUsage().arrayBuffers - before);
  }
  row("memory of splicing alone", `${(most / 1e6).toFixed(0)} MB`, `aim ≤ 200 MB; ${top} layers`);
  rmSync(folder, { recursive: true });
}

function lineEndsIn(bytes: Uint8Array): number {
  let count = 0;
  for (let at = bytes.indexOf(10); at >= 0; at = bytes.indexOf(10, at + 1)) count++;
  return count;
}

void main();
