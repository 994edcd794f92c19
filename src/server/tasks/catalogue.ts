/** Heavy work of the server, done in a worker thread so that no request waits for another. */
import Database from "better-sqlite3";
import { createHash } from "node:crypto";
import { checkFile } from "@/core/checks/file";
import { applyEdits, applyOne, Edit, EditableFile, kindOf } from "@/core/edits";
import { Hits, searchLines } from "@/core/edits/look";
import { Proof, proveEdits } from "@/core/edits/prove";
import { Chunks, readChunks, seeFile, seenWith } from "@/core/edits/see-file";
import { sameSplices, SpliceSet, splicesIn } from "@/core/edits/splices/packed";
import { splicedChunks } from "@/core/edits/splices/splicer";
import { ChangedLine, changedLines } from "@/core/edits/splices/windows";
import { readingOf } from "@/core/machine/reading";
import type { MachineState } from "@/core/machine/state";
import { Finding, worstFirst } from "@/core/findings/finding";
import { tooLongToSend, tooMuch } from "@/core/gcode/bounds";
import { ProgramTables } from "@/core/gcode/read";
import { stateBehind } from "@/core/gcode/state-behind";
import { commandLengths, lineEndByteOf } from "@/core/gcode/transmit";
import { Mismatch, ProofLayer, proofLayers, settingsByLayer, toolsOfMoves } from "@/core/heightplan/proof";
import { Cut, cutLayers, cutThrough } from "@/core/laid/cut";
import { FOR_A_LIST, Front, frontOf } from "@/core/laid/front";
import { kindsOf } from "@/core/laid/kinds";
import { SeenBridge, seenBridges } from "@/core/laid/over-air";
import { frontThumbnail, strokesThumbnail, Thumbnail } from "@/core/laid/thumbnail";
import { packMoves } from "@/core/laid/picture";
import { moveSeconds } from "@/core/motion/duration";
import { limitsFor } from "@/core/motion/limits";
import { JobProgram, jobProgram } from "@/core/report/progress";
import { MOST_CHANGES, ProgramReport, reportOf } from "@/core/report/report";
import { refuse, Result, succeed } from "@/core/result";
import { headOf, Printer } from "@/core/shelf/printer";
import type { Spool } from "@/core/shelf/spool";
import type { Side } from "@/core/reading/photo";
import type { Weights } from "@/core/reading/score";
import type { Verdict, VerdictRequest } from "@/core/reading/verdict";
import { drawField, drawPiece, drawSwatches, PiecePicture } from "@/core/simulator/piece/draw";
import type { SimulatedPiece } from "@/core/simulator/piece/piece";
import { BuiltSheet, buildSheet, SheetInput } from "@/core/sheets/program";
import type { Sheet } from "@/core/sheets/sheet";
import type { Label } from "@/core/values/label";
import type { KeptValue } from "@/core/trials/kept";
import { Known, knownOf } from "@/core/values/known";
import { Bundle, bundleSchema } from "@/core/values/bundle-schema";
import { buildTrial, slicesOf } from "@/core/trials/build";
import { heightsOf, sheetPieces } from "@/core/trials/sheet-piece";
import { isBeside, Run, unitsOf, verdictOf } from "@/core/trials/run";
import { Beside, Effort, effortOfTrial, FirstPiece, firstPieces } from "@/core/trials/effort";
import { placedRound, ReadPiece } from "@/core/trials/placed-round";
import { thumbnailOf } from "@/core/trials/thumbnail";
import { TrialInput } from "@/core/trials/trial";
import { PlainView, plainView, viewOf } from "@/core/trials/view";
import { inspectTrial } from "@/core/trials/inspect";
import { MergedFile, mergeFiles, MergeRequest } from "@/core/edits/merge-files";
import { keptBlock, splicesOfResult } from "@/server/db/edit-blocks";
import { CHUNK_BYTES, fileBytesFrom, fileChunks } from "@/server/db/files";
import { gathered } from "@/server/db/gathered";
import type { DeviceRow } from "@/server/db/devices";
import { checkBackup, readyBackup } from "@/server/db/check-backup";
import { lookKey } from "./look-key";
import { StoredReport, storedReport } from "./stored-report";

export interface TaskTools {
  /** A connection of the worker's own, for reading only. */
  database(): Database.Database;
  progress(share: number): void;
  /** Part of the answer, ahead of it. */
  tell(part: unknown): void;
}

export const tasks = {
  /** Writes a whole copy of the database as it is at this moment (SQLite, "VACUUM INTO"). */
  backup({ path }: { path: string }, tools: TaskTools): void {
    tools.database().prepare("VACUUM INTO ?").run(path);
  },

  /** A label as PDF. What draws it is loaded when one is wanted. */
  async labelPdf({ label, asSheet }: { label: Label; asSheet: boolean }): Promise<Result<Uint8Array>> {
    return (await import("./label-pdf")).labelPdf(label, asSheet);
  },

  /** Everything of another bench as it came, checked; refused with the first problem's sentence and field. */
  readBundle({ text }: { text: string }): Result<Bundle> {
    let body: unknown;
    try {
      body = JSON.parse(text);
    } catch {
      return refuse("The file is not JSON.");
    }
    const parsed = bundleSchema.safeParse(body);
    if (parsed.success) return succeed(parsed.data);
    const [issue] = parsed.error.issues;
    return refuse(issue.message, issue.path.join("."));
  },

  /** Whether a file is a whole database of this program that this version can use. */
  checkBackup: ({ path }: { path: string }): Result<number> => checkBackup(path),

  /** A checked backup, made ready to be this program's database. */
  readyBackup: ({ path, devices }: { path: string; devices: DeviceRow[] }): void => readyBackup(path, devices),

  /** The finished program of a trial with its findings. */
  buildTrial(input: TrialInput): { bytes: Uint8Array; findings: Finding[] } {
    const built = buildTrial(input, sheetPieces);
    const { findings } = inspectTrial(input, built);
    return { bytes: built.bytes, findings };
  },

  /** What the finished program of a trial really commands. */
  proveTrial(input: TrialInput): { layers: ProofLayer[]; findings: Finding[]; passed: string[] } {
    const built = buildTrial(input, sheetPieces);
    const { tables, byLayer, findings, passed } = inspectTrial(input, built);
    return { layers: proofLayers(tables, byLayer), findings, passed };
  },

  /** Tops of a sheet's layers as the piece of a trial whose bands have some values; refused where it can be none. */
  sheetHeights(input: { sheet: Sheet; printer: Printer; spool: Spool; values: number[] }): Result<number[]> {
    return heightsOf(input.sheet, input.printer, input.spool, input.values);
  },

  /** The finished program of a sheet with its findings; refused with row and field where it cannot be laid. */
  buildSheet(input: SheetInput): Result<{ bytes: Uint8Array; findings: Finding[] }> {
    const built = buildSheet(input);
    return built.ok ? succeed({ bytes: built.value.bytes, findings: built.value.findings }) : built;
  },

  /** What a sheet takes, what is wrong with it, and what its program commands layer by layer. */
  reportSheet(
    input: SheetInput,
  ): Result<Pick<BuiltSheet, "report" | "figures" | "findings" | "passed"> & { layers: ProofLayer[] }> {
    const built = buildSheet(input);
    if (!built.ok) return built;
    const { report, figures, findings, passed, tables } = built.value;
    return succeed({ report, figures, findings, passed, layers: proofLayers(tables, settingsByLayer(tables).byLayer) });
  },

  /** The small picture of a sheet; refused where it cannot be laid. */
  thumbnailOfSheet(input: SheetInput): Result<Thumbnail> {
    const built = buildSheet(input);
    return built.ok ? succeed(strokesThumbnail(built.value.tables)) : built;
  },

  /** All the trial page shows of a trial, worked out ahead of it. */
  viewTrial(input: TrialInput): PlainView {
    const built = buildTrial(input, sheetPieces);
    return plainView(viewOf(input, built, inspectTrial(input, built)));
  },

  /** What is to be known of a trial that was printed: its exact program, and how settled each band is expected to be. */
  runFacts(input: TrialInput): RunFacts {
    const built = buildTrial(input, sheetPieces);
    return { hash: hashOf(built.bytes), settledShares: inspectTrial(input, built).bandSettled };
  },

  /** What all readings of a run say together. */
  verdict: ({ run, readers, weights }: ReadRun): Verdict => verdictOf(run, unitsOf(run), readers, weights),

  /** What is known altogether of everything that is kept. */
  known({ counting, everything, printers, spools }: KeptOnBench): Known[] {
    const byId = <T extends { id: number }>(all: readonly T[]) => new Map(all.map((one) => [one.id, one]));
    return knownOf(counting, everything, { printers: byId(printers), spools: byId(spools) });
  },

  /** The next round of a piece, placed where it tells most; refused where there is nothing finer to ask. */
  placeRound: (read: ReadRun & Pick<ReadPiece, "verdict" | "spool">) =>
    placedRound({ ...read, units: unitsOf(read.run) }),

  /** What a trial takes, built as it would be printed. */
  trialEffort: (input: TrialInput): Omit<Effort, "kind"> => effortOfTrial(input, sheetPieces),

  /** A simulated piece as it would look. */
  drawPiece({ run, piece, side }: { run: Run; piece: SimulatedPiece & { spool: Spool }; side: Side }): PiecePicture {
    const { trial, printer, reachedMm } = run;
    const { spool } = piece;
    const units = unitsOf(run);
    const drawn = { piece, units, layerMm: trial.layerHeightMm, colourHex: spool.colourHex };
    if (units[0].column !== undefined) return drawField(drawn);
    if (isBeside({ bands: units, trial })) return drawSwatches(drawn);
    return drawPiece({ ...drawn, slices: slicesOf({ trial, printer, spool }, sheetPieces), side, reachedMm });
  },

  /** The piece of every kind's first round, and what it takes. */
  firstPieces: ({ printer, spool, ...beside }: Pick<TrialInput, "printer" | "spool"> & Beside): FirstPiece[] =>
    firstPieces(printer, spool, beside),

  /** The small picture of a trial's piece. */
  thumbnailOfTrial: (input: TrialInput): Thumbnail => thumbnailOf(input, buildTrial(input, sheetPieces)),

  /** The program of a job with what is shown while it runs. Findings of severity “stop” refuse it. */
  jobProgram(source: JobSource, tools: TaskTools): Result<JobProgram & { facts: RunFacts }> {
    const { bytes, tables, findings, printer, bandSettled } =
      "input" in source ? jobOfTrial(source.input, tools) : jobOfFile(source, tools);
    const stop = findings.find(({ severity }) => severity === "stop");
    if (stop) return refuse(`This file would do harm, so it is not sent. ${stop.message}`);
    const tooLong = tooLongToSend(commandLengths(bytes, lineEndByteOf(bytes)));
    if (tooLong) return refuse(`This file is not sent. ${tooLong}`);
    return succeed({
      ...jobProgram(bytes, tables, limitsFor(printer)),
      facts: { hash: hashOf(bytes), settledShares: bandSettled },
    });
  },

  /** Reads a received file; refused with a sentence if it is no program that prints something. */
  readFile(file: FileInput & { name: string }, tools: TaskTools): Result<StoredReport> {
    const tables = readWhole(file, tools);
    const { name } = file;
    if (tables.binaryBytes > 0) {
      return refuse(
        `“${name}” is not a program: it holds binary data. Choose the .gcode file your slicer wrote.`,
        "name",
      );
    }
    if (tables.layers.length === 0) {
      return refuse(
        tables.moves.count === 0
          ? `“${name}” has no moves in it, so there is nothing to calibrate. Choose a sliced .gcode file.`
          : `“${name}” lays no material anywhere: all its moves are travels. Choose a sliced .gcode file.`,
        "name",
      );
    }
    const much = tooMuch(tables);
    if (much) return refuse(`“${name}” is not opened. ${much}`, "name");
    return succeed(storedReport(tables, file.printer));
  },

  /** Reads a program that was written here: it need not lay anything. */
  readWritten: ({ bytes, printer }: { bytes: Uint8Array; printer: Printer }): StoredReport =>
    storedReport(readChunks([bytes], printer, { expectedBytes: bytes.length }), printer),

  /** Reads a stored file again, for another printer or a newer form of report. */
  readAgain: (file: FileInput, tools: TaskTools): StoredReport => storedReport(readWhole(file, tools), file.printer),

  /** Works out what a stack of edits puts in and takes out, told block by block where that is wanted, and looks at what comes of it. */
  applyEdits(
    { tellsBlocks = false, ...input }: EditInput & { tellsBlocks?: boolean },
    tools: TaskTools,
  ): Result<{
    edits: { kind: string; changedLines: number; places: [first: number, last: number][] }[];
    findings: Finding[];
    inserted: { line: number; layer: number; fromMm: number; text: string }[];
    removed: { line: number }[];
    planned: Record<string, (number | null)[]>;
  }> {
    const { edits, printer, name } = input;
    const file = editableFile(input, tools);
    const applied = applyEdits(edits, file, printer, name);
    if (!applied.ok) return applied;
    const { splices: set, findings, planned } = applied.value;
    const { report } = file.original;
    if (tellsBlocks) for (const block of set.blocks) tools.tell(keptBlock(block));
    return succeed({
      edits: applied.value.edits,
      findings: worstFirst([...findingsBehind(input, file, set), ...findings]),
      ...putInAndTakenOut(set, report),
      planned: Object.fromEntries(
        planned
          .flatMap(({ planned: ofTool }) => Object.entries(ofTool))
          .map(([key, values]) => [key, Array.from(values, (value) => (Number.isNaN(value) ? null : value))]),
      ),
    });
  },

  /** What one edit changes, before and after, a window of it. */
  previewEdit(
    { index, from, count, ...input }: EditInput & { index: number; from: number; count: number },
    tools: TaskTools,
  ): Result<{ total: number; lines: ChangedLine[] }> {
    const one = applyOne(input.edits, index, editableFile(input, tools), input.printer, input.name);
    if (!one.ok) return one;
    const { before, own } = one.value;
    const chunks = () => splicedChunks(chunksOf(input, tools)(), before);
    return succeed({ total: own.count, lines: changedLines(chunks, own, from, count) });
  },

  /** Lines of a file that hold a text; what is found on the way is told at once. */
  searchFile(
    { text, most, sizeBytes, ...look }: LookInput & { text: string; most: number; sizeBytes: number },
    tools: TaskTools,
  ): Hits {
    return searchLines(lookedAt(look, tools), text, most, ({ bytes, hits }) => {
      tools.progress(Math.min(0.99, bytes / Math.max(1, sizeBytes)));
      if (hits.length > 0) tools.tell(hits);
    });
  },

  /** What the machine holds behind a line (from 0) of a file. */
  fileState(
    { line, printer, ...look }: LookInput & { line: number; printer: Printer },
    tools: TaskTools,
  ): MachineState {
    return stateBehind(lookedAt(look, tools), line, { reading: readingOf(printer) });
  },

  /** Strands over air, as edit `index` finds the file. */
  fileBridges({ index, ...input }: EditInput & { index: number }, tools: TaskTools): Result<SeenBridge[]> {
    const { printer, edits } = input;
    const file = editableFile(input, tools);
    const below = applyEdits(edits.slice(0, index), file, printer, input.name);
    if (!below.ok) return below;
    const tables = (index === 0 ? file.original : file.read(below.value.splices)).tables();
    return succeed(seenBridges(tables));
  },

  /** The piece seen from the front, by what is laid. */
  fileFront: ({ printer, ...look }: LookInput & { printer: Printer }, tools: TaskTools): Front =>
    frontOf(tablesOf(look, printer, tools)),

  /** The small picture of a file's piece. */
  thumbnailOfFile({ printer, ...look }: LookInput & { printer: Printer }, tools: TaskTools): Thumbnail {
    const tables = tablesOf(look, printer, tools);
    const { widthMm, rectangles } = frontOf(tables, FOR_A_LIST);
    const heightMm = tables.layers.at(-1)?.zMm ?? 0;
    return frontThumbnail({ rectangles, widthMm, heightMm, bands: [] });
  },

  /** Moves of some layers for a viewer, packed; of all of them where `count` is 0. */
  fileMoves(
    { printer, fromLayer, count, ...look }: LookInput & { printer: Printer; fromLayer: number; count: number },
    tools: TaskTools,
  ): Uint8Array {
    const tables = tablesOf(look, printer, tools);
    const { moves, layers } = tables;
    const span = count === 0 ? undefined : { from: fromLayer, to: fromLayer + count };
    const { kind, from } = kindsOf(tables, (done) => tools.progress(0.6 + (0.4 * done) / layers.length), span);
    const layerStarts = Uint32Array.from(layers, ({ firstMove }) => firstMove);
    const first = count === 0 ? 0 : (layerStarts[Math.min(fromLayer, layers.length - 1)] ?? 0);
    const last = count === 0 ? moves.count : (layerStarts[fromLayer + count] ?? moves.count);
    return packMoves(moves, { kind, tool: toolsOfMoves(tables), layerStarts, kindsFrom: from }, first, last);
  },

  /** A cut through the outer wall at a height. */
  fileCut(
    { printer, atMm, ...look }: LookInput & { printer: Printer; atMm: number },
    tools: TaskTools,
  ): Cut & { seconds: number } {
    const tables = tablesOf(look, printer, tools);
    const seconds = moveSeconds(tables.moves, tables.events, limitsFor(printer)).reduce((sum, s) => sum + s, 0);
    const cut = { atMm, widthMm: 5, heightMm: 2 };
    const span = cutLayers(tables.layers, cut);
    return { ...cutThrough(tables, kindsOf(tables, undefined, span).kind, cut), seconds };
  },

  /** Two files as one print, told piece by piece; refused with field and reason if they cannot be one. */
  mergeFiles(
    { files: pair, printer, request }: { files: [MergeInput, MergeInput]; printer: Printer; request: MergeRequest },
    tools: TaskTools,
  ): Result<null> {
    const prepared = ({ name, tool, ...file }: MergeInput): MergedFile => ({
      ...{ name, tool },
      file: seeFile(readWhole({ ...file, printer }, tools), chunksOf(file, tools), printer),
      bytes: (from, to) => firstBytes(fileBytesFrom(tools.database(), file.fileId, from), to - from),
    });
    const merged = mergeFiles([prepared(pair[0]), prepared(pair[1])], printer, request);
    if (!merged.ok) return merged;
    for (const piece of gathered(merged.value, CHUNK_BYTES)) tools.tell(piece);
    return succeed(null);
  },

  /** What is wrong with the edited file as it stands. */
  checkEdited({ printer, ...file }: LaidFile, tools: TaskTools): Finding[] {
    return findingsOf(readChunks(lookedAt(file, tools), printer), printer);
  },

  /** Reads the edited file back and holds it against what the edits want, and against what they must not touch. */
  proveFile(
    input: EditInput & { resultId: number | null },
    tools: TaskTools,
  ): Result<{
    layers: ProofLayer[];
    /** How long it takes, s. */
    seconds: number;
    mismatches: Mismatch[];
    wrong: string[];
    differences: Proof["differences"];
    passed: string[];
  }> {
    const { edits, printer } = input;
    const file = editableFile(input, tools);
    const proved = proveEdits(edits, file, printer, input.name);
    if (!proved.ok) return proved;
    const proof = proved.value;
    const tables = proof.after.tables();
    const { byLayer } = settingsByLayer(tables);
    return succeed({
      layers: proofLayers(tables, byLayer),
      seconds: moveSeconds(tables.moves, tables.events, limitsFor(printer)).reduce((sum, s) => sum + s, 0),
      mismatches: proof.mismatches
        .slice(0, 500)
        .map((one) => ({ ...one, commanded: Number.isNaN(one.commanded) ? -1 : one.commanded })),
      wrong: [
        ...proof.wrong,
        // What is handed out is what was kept when the edits were laid; it must be what they come to.
        ...(sameSplices(proof.splices, splicesOfResult(tools.database(), input.resultId))
          ? []
          : [
              "The file that is kept was made by an earlier version of this program. Change an edit, and it is made anew.",
            ]),
      ],
      differences: proof.differences,
      passed: proof.passed,
    });
  },
};

/** A stored file, and the printer it is looked at for. */
interface FileInput {
  fileId: number;
  sizeBytes: number;
  printer: Printer;
}

/** What the edits of a stored file came to; null shows it as it came. */
interface LaidFile extends FileInput {
  resultId: number | null;
}

/** A stored file as it is looked at: with what is laid over it, or as it came. */
export interface LookInput {
  fileId: number;
  /** Of the file: a program that is written here can become another. */
  version: number;
  resultId: number | null;
}

/** A file that becomes part of another, and the tool it is laid with. */
interface MergeInput {
  fileId: number;
  sizeBytes: number;
  name: string;
  tool: number;
}

/** Cuts a stream off behind so many bytes. */
function* firstBytes(chunks: Iterable<Uint8Array>, count: number): Generator<Uint8Array> {
  let left = count;
  for (const chunk of chunks) {
    if (left <= 0) return;
    yield chunk.subarray(0, left);
    left -= chunk.length;
  }
}

const lookedAt = ({ fileId, resultId }: Pick<LookInput, "fileId" | "resultId">, tools: TaskTools) =>
  splicedChunks(chunksOf({ fileId }, tools)(), splicesOfResult(tools.database(), resultId));

/** The first lines that edits put in, and take out, of so many each. */
const MOST_TOLD = 500;

function putInAndTakenOut(set: SpliceSet, report: ProgramReport) {
  const inserted: { line: number; layer: number; fromMm: number; text: string }[] = [];
  const removed: { line: number }[] = [];
  for (const { line, layer = 0, insert, removeBytes, removeLines } of splicesIn(set)) {
    if (inserted.length >= MOST_TOLD && removed.length >= MOST_TOLD) break;
    if (insert !== "") {
      if (inserted.length < MOST_TOLD)
        inserted.push({ line, layer, fromMm: bottomMm(report, layer), text: insert.trimEnd() });
    } else if (removeBytes > 0 && removeLines > 0 && removed.length < MOST_TOLD) removed.push({ line });
  }
  return { inserted, removed };
}

/** The tables of the file this worker looked at last: the next layer, cut or view of it need not be read again. */
let lookedAtLast: { key: string; tables: ProgramTables } | null = null;

function tablesOf(look: LookInput, printer: Printer, tools: TaskTools): ProgramTables {
  const key = lookKey(look, printer);
  if (lookedAtLast?.key !== key) {
    lookedAtLast = null;
    lookedAtLast = { key, tables: readChunks(lookedAt(look, tools), printer) };
  }
  return lookedAtLast.tables;
}

/** Values that count, all that were ever kept, and what they were kept for. */
export interface KeptOnBench {
  counting: KeptValue[];
  everything: KeptValue[];
  printers: (Printer & { id: number })[];
  spools: (Spool & { id: number })[];
}

/** A run with all that was read of it. */
export interface ReadRun {
  run: Run;
  readers: VerdictRequest["readers"];
  weights: Weights;
}

/** What is known of a program before it is printed. */
export interface RunFacts {
  /** SHA-256, hexadecimal. */
  hash: string;
  /** Share (0–1) of each band in which the nozzle is expected to be settled; empty for a file. */
  settledShares: number[];
}

/** Where a job's program comes from. */
export type JobSource = { input: TrialInput } | LaidFile;

/** What edits are worked out from: the stored report, made for this printer. */
interface EditInput extends FileInput {
  name: string;
  report: string;
  edits: Edit[];
}

export type Tasks = typeof tasks;
export type TaskName = keyof Tasks;

function chunksOf({ fileId }: { fileId: number }, { database }: TaskTools): Chunks {
  return () => fileChunks(database(), fileId);
}

const progressOf =
  (sizeBytes: number, { progress }: TaskTools) =>
  (read: number) =>
    progress(Math.min(0.95, read / Math.max(1, sizeBytes)));

function readWhole(file: FileInput, tools: TaskTools): ProgramTables {
  const { sizeBytes, printer } = file;
  return readChunks(chunksOf(file, tools)(), printer, { expectedBytes: sizeBytes }, progressOf(sizeBytes, tools));
}

/** The file as edits see it; read anew where its report does not keep all its changes. */
function editableFile(input: EditInput, tools: TaskTools): EditableFile {
  const { printer } = input;
  const original = chunksOf(input, tools);
  const report = JSON.parse(input.report) as ProgramReport;
  const needsAll = input.edits.some(({ off }) => !off) && report.changeCount > MOST_CHANGES;
  return {
    original: needsAll ? seeFile(readWhole(input, tools), original, printer) : seenWith(report, original, printer),
    read(set) {
      const chunks = () => splicedChunks(original(), set);
      return seeFile(readChunks(chunks(), printer, { expectedBytes: input.sizeBytes }), chunks, printer);
    },
  };
}

function findingsOf(tables: ProgramTables, printer: Printer): Finding[] {
  return checkFile(reportOf(tables, limitsFor(printer), headOf(printer)).report, printer);
}

/** What is to be said of the file with the edits in it. The lines they put in are no earlier plan, and nobody else's changes. */
function findingsBehind({ edits, printer }: EditInput, file: EditableFile, set: SpliceSet): Finding[] {
  const before = checkFile(file.original.report, printer);
  const active = edits.filter(({ off }) => !off);
  if (active.length === 0) return before;
  const isEarlier = ({ check }: Finding) => check === "earlier-plan";
  const lifted = active.some((edit) => edit.kind === "lift-out" && edit.what === "cuchara");
  const { report } = file.read(set);
  const pauses = active.filter((edit) => kindOf(edit).stops).length;
  const isOurs = ({ check }: Finding) =>
    (check === "foreign-change" && active.some((edit) => kindOf(edit).tellsHeats)) ||
    // A stop heats up again before it goes on: that is waited for on purpose.
    (check === "waits-inside" && (report.facts.waitsInside?.count ?? 0) <= pauses);
  const behind = checkFile(report, printer).filter((finding) => !isEarlier(finding) && !isOurs(finding));
  return [...(lifted ? [] : before.filter(isEarlier)), ...behind];
}

/** SHA-256 (FIPS 180-4) of a program, hexadecimal. */
const hashOf = (bytes: Uint8Array) => createHash("sha256").update(bytes).digest("hex");

function jobOfTrial(input: TrialInput, { progress }: TaskTools) {
  progress(0.05);
  const built = buildTrial(input, sheetPieces);
  progress(0.6);
  const { tables, findings, bandSettled } = inspectTrial(input, built);
  return { bytes: built.bytes as Uint8Array, tables, findings, printer: input.printer, bandSettled };
}

function jobOfFile({ printer, ...file }: LaidFile, tools: TaskTools) {
  const bytes: Uint8Array = Buffer.concat([...lookedAt(file, tools)]);
  const tables = readChunks([bytes], printer, { expectedBytes: bytes.length }, progressOf(bytes.length, tools));
  return { bytes, tables, findings: findingsOf(tables, printer), printer, bandSettled: [] as number[] };
}

function bottomMm({ layers }: ProgramReport, layer: number): number {
  const found = layers[layer];
  return found ? found.zMm - found.heightMm : 0;
}
