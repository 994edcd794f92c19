/**
 * `npm run bench`: the speed figures, as ratios within this one run. Nothing here passes or fails; the aims stand beside the
 * figures.
 */
import { spawnSync } from "node:child_process";
import { createReadStream, createWriteStream, mkdtempSync, rmSync, statSync, writeFileSync } from "node:fs";
import { open } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { createInterface } from "node:readline";
import { pipeline } from "node:stream/promises";
import { applyEdits } from "../src/core/edits";
import { seenWith } from "../src/core/edits/see-file";
import { Splicer } from "../src/core/edits/splices/splicer";
import { ProgramReader, ProgramTables, readProgram } from "../src/core/gcode/read";
import { findStrikes } from "../src/core/motion/clearance";
import { limitsFor } from "../src/core/motion/limits";
import { reportOf } from "../src/core/report/report";
import { headOf } from "../src/core/shelf/printer";
import { printerSchema } from "../src/core/shelf/printer-schema";
import { spoolSchema } from "../src/core/shelf/spool-schema";
import { readingTimes } from "./bench-reading";
import { roadKindKeys, TrialKindKey, trialKindKeys } from "../src/core/trials";
import { firstRound } from "../src/core/trials/first-round";
import { effortOf } from "../src/core/trials/effort";
import { buildTrial } from "../src/core/trials/build";
import { inspectTrial } from "../src/core/trials/inspect";
import { Trial } from "../src/core/trials/trial";
import { sayDuration } from "../src/core/units";
import { demoPrinters, demoSpools } from "../src/server/demo/scenario";

const CHUNK = 1 << 20;
const ROUNDS = 5;
const printer = printerSchema.parse(demoPrinters[0]);
const spool = spoolSchema.parse(demoSpools[1]);
const folder = mkdtempSync(join(tmpdir(), "cuchara-bench-"));
const path = join(folder, "large.gcode");

function trialWith(change: Partial<Trial> = {}, kind: TrialKindKey = "temperature"): Trial {
  const heights = { layerHeightMm: 0.2, firstLayerHeightMm: 0.2 };
  const { plan, fixed } = firstRound(kind, { printer, spool, kept: {}, options: {}, ...heights });
  return {
    id: 1,
    kind,
    name: "Bench",
    printerId: 1,
    spoolId: 1,
    ...heights,
    plan,
    fixed,
    tool: 0,
    options: {},
    createdAt: "2026-01-01T00:00:00.000Z",
    updatedAt: "2026-01-01T00:00:00.000Z",
    ...change,
  };
}

function median(values: number[]): number {
  return [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)];
}

async function timed(act: () => unknown, rounds = ROUNDS): Promise<number> {
  const times: number[] = [];
  for (let i = 0; i < rounds; i++) {
    const started = performance.now();
    await act();
    times.push(performance.now() - started);
  }
  return median(times);
}

const row = (what: string, figure: string, aim = "") =>
  console.log(`${what.padEnd(58)} ${figure.padStart(26)}   ${aim}`);

/** A program of about 100 MB: a square piece of many short lines. */
function writeLarge(megabytes: number): void {
  const out: string[] = ["G28", "M104 S210", "G90", "M83"];
  let size = 0;
  let layer = 0;
  while (size < megabytes * 1e6) {
    const z = (0.2 * (layer + 1)).toFixed(2);
    const lines = [`; deck ${layer}`, "G1 E-3 F2400", `G0 X10 Y10 Z${z} F9000`, "G1 E3 F2400"];
    for (let i = 0; i < 2000; i++) {
      lines.push(
        `G1 X${(10 + (i % 50) * 1.234).toFixed(3)} Y${(10 + Math.floor(i / 50) * 1.507).toFixed(3)} E${(0.04172).toFixed(5)}`,
      );
    }
    const text = lines.join("\n");
    size += text.length + 1;
    out.push(text);
    layer++;
  }
  writeFileSync(path, out.join("\n") + "\n");
}

async function readWhole(file: string, onChunk: () => void = () => undefined): Promise<ProgramTables> {
  const reader = new ProgramReader(statSync(file).size);
  const handle = await open(file);
  const chunk = Buffer.alloc(CHUNK);
  for (;;) {
    const { bytesRead } = await handle.read(chunk, 0, CHUNK);
    if (bytesRead === 0) break;
    reader.push(chunk.subarray(0, bytesRead));
    onChunk();
  }
  await handle.close();
  return reader.finish();
}

/** Prints by how much one full read raises this process's memory at its peak, bytes. */
async function measureMemory(file: string): Promise<void> {
  global.gc?.();
  const before = process.memoryUsage().rss;
  let peak = before;
  const sample = () => (peak = Math.max(peak, process.memoryUsage().rss));
  const tables = await readWhole(file, sample);
  sample();
  if (tables.moves.count > 0) process.stdout.write(String(peak - before));
}

async function main(): Promise<void> {
  console.log(`Node ${process.version}, medians of ${ROUNDS} rounds\n`);

  // Building first, while nothing is warm: what the first press on the page costs.
  const input = { trial: trialWith(), printer, spool };
  const cold = await timed(() => buildTrial(input), 1);
  let turn = 0;
  const warm = await timed(() => {
    const plan = {
      ...input.trial.plan,
      bands: input.trial.plan.bands.map((band, i) =>
        i === 3 ? { ...band, settings: { nozzleTemperature: 201 + (turn++ % 5) } } : band,
      ),
    };
    return buildTrial({ ...input, trial: trialWith({ plan }) });
  });
  const inspected = await timed(() => inspectTrial(input, buildTrial(input)));
  const sixty = trialWith({
    plan: {
      baseHeightMm: 1.5,
      bands: Array.from({ length: 60 }, (_, i) => ({ heightMm: 4, settings: { nozzleTemperature: 250 - i } })),
    },
  });
  const tall = { trial: sixty, printer: { ...printer, buildHeightMm: 400 }, spool };
  const sixtyMs = await timed(() => buildTrial(tall), 3);
  row("build, default 9-band tower, first time in this process", `${cold.toFixed(0)} ms`);
  let nozzle = 0;
  // Another bead width each time: no island was ever filled before.
  const fresh = await timed(() => buildTrial({ ...input, printer: { ...printer, nozzleMm: 0.4 + ++nozzle / 1000 } }));
  row("build, default 9-band tower, nothing kept from before", `${fresh.toFixed(0)} ms`, "aim ≤ 300 ms");
  row("build, default 9-band tower, after an edit", `${warm.toFixed(0)} ms`, "aim ≤ 300 ms");
  row("build + read back + all checks, after an edit", `${inspected.toFixed(0)} ms`, "what the page waits for");
  row("build, 60-band tower (240 mm)", `${sixtyMs.toFixed(0)} ms`);

  let totalS = 0;
  let totalG = 0;
  for (const kind of trialKindKeys) {
    const one = { trial: trialWith({}, kind), printer, spool };
    // Another bead width each time, as above.
    const kindMs = await timed(
      () => buildTrial({ ...one, printer: { ...printer, nozzleMm: 0.4 + ++nozzle / 1000 } }),
      3,
    );
    const { seconds, massG } = effortOf(kind, printer, spool, { kept: {} });
    // What a chosen kind asks for is no part of the road.
    if (roadKindKeys.includes(kind)) {
      totalS += seconds;
      totalG += massG;
    }
    row(
      `build, first round of ${kind} (${sayDuration(seconds)}, ${massG.toFixed(1)} g), nothing kept`,
      `${kindMs.toFixed(0)} ms`,
      "aim ≤ 400 ms",
    );
  }
  row(
    `first rounds of all kinds on ${printer.name}`,
    `${sayDuration(totalS)}, ${totalG.toFixed(0)} g`,
    "aim ≤ 6 h, ≤ 90 g",
  );
  const matrix = trialWith({}, "retraction-matrix");
  const pairs = {
    trial: {
      ...matrix,
      plan: {
        ...matrix.plan,
        bands: Array.from({ length: 10 }, (_, i) => ({ heightMm: 4, settings: { retractionSpeed: 10 + i * 4 } })),
        sideBySide: {
          setting: "retractionLength" as const,
          values: Array.from({ length: 40 }, (_, i) => 0.5 + i * 0.2),
        },
      },
    },
    printer: { ...printer, nozzleMm: 0.399 },
    spool,
  };
  const matrixMs = await timed(() => buildTrial(pairs), 1);
  row("build, retraction matrix of 40 × 10 pairs", `${matrixMs.toFixed(0)} ms`, "aim ≤ 2 s");

  for (const [name, ms, aim] of await readingTimes(timed)) row(name, `${ms.toFixed(0)} ms`, aim);

  await measureClearance();

  writeLarge(100);
  const size = statSync(path).size;
  const megabytes = size / 1e6;
  // In a process of its own, so that nothing from before counts or hides it.
  const memory = spawnSync(process.execPath, [process.argv[1], "--memory", path], { encoding: "utf8" });
  row("peak memory of the full read", `${(Number(memory.stdout) / size).toFixed(2)} × file`, "aim ≤ 1.5");
  const tables = await readWhole(path);

  const lines = await timed(async () => {
    let count = 0;
    for await (const _ of createInterface({ input: createReadStream(path), crlfDelay: Infinity })) count++;
    return count;
  }, 3);
  const read = await timed(() => readWhole(path), 3);
  const report = await timed(() => reportOf(tables, limitsFor(printer)), 3);
  row("Node's readline over the file's lines", `${(megabytes / (lines / 1000)).toFixed(0)} MB/s`);
  row("full read (scan, state, moves, layers)", `${(megabytes / (read / 1000)).toFixed(0)} MB/s`);
  row("full read ÷ readline", (read / lines).toFixed(2), "aim ≤ 1");
  row("report (look-ahead over all moves) ÷ full read", (report / read).toFixed(2));

  const layers = tables.layers.length;
  const copy = await timed(() =>
    pipeline(createReadStream(path, { highWaterMark: CHUNK }), createWriteStream(join(folder, "copy"))),
  );
  const changes = Array.from({ length: 10 }, (_, i) => ({
    from: { layer: Math.floor(((i + 1) * layers) / 12), countsFrom: 0 as const },
    settings: { nozzleTemperature: 230 - i * 5 },
  }));
  const original = seenWith(reportOf(tables, limitsFor(printer)).report, () => [], printer);
  const weave = await timed(async () => {
    const applied = applyEdits([{ kind: "height-plan", changes }], { original, read: () => original }, printer);
    if (!applied.ok) throw new Error(applied.message);
    const splicer = new Splicer(applied.value.splices);
    await pipeline(
      createReadStream(path, { highWaterMark: CHUNK }),
      async function* (source: AsyncIterable<Buffer>) {
        for await (const chunk of source) yield* splicer.push(chunk);
        yield* splicer.end();
      },
      createWriteStream(join(folder, "woven")),
    );
  });
  row("weaving a 10-band plan ÷ copying through streams", (weave / copy).toFixed(2), "aim ≤ 2");
}

/** A million moves: rows of small posts, one post after the other, so that the head goes down beside what stands. */
async function measureClearance(): Promise<void> {
  const lines = ["G28", "M83"];
  const layers = 120;
  const posts = Math.ceil(1_000_000 / (layers * 9));
  const across = Math.ceil(Math.sqrt(posts));
  for (let post = 0; post < posts; post++) {
    const x = 60 * (post % across);
    const y = 60 * Math.floor(post / across);
    lines.push("G0 Z30 F6000", `G0 X${x} Y${y}`);
    for (let layer = 1; layer <= layers; layer++) {
      lines.push(`G0 X${x} Y${y} Z${(layer * 0.2).toFixed(1)}`);
      for (let side = 0; side < 8; side++) {
        lines.push(`G1 X${(x + 4 * Math.cos(side)).toFixed(2)} Y${(y + 4 * Math.sin(side)).toFixed(2)} E0.1 F1800`);
      }
    }
  }
  const bytes = Buffer.from(lines.join("\n"));
  const readMs = await timed(() => readProgram(bytes), 3);
  const { moves } = readProgram(bytes);
  const clear = await timed(() => findStrikes(moves, headOf(printer)), 3);
  row(
    `head clearance of ${(moves.count / 1e6).toFixed(1)} million moves ÷ their read`,
    (clear / readMs).toFixed(2),
    "aim ≤ 2",
  );
}

const memoryOf = process.argv[2] === "--memory" ? process.argv[3] : null;
(memoryOf ? measureMemory(memoryOf) : main())
  .finally(() => rmSync(folder, { recursive: true, force: true }))
  .catch((error: unknown) => {
    console.error(error);
    process.exit(1);
  });
