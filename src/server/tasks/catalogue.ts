/** Heavy work of the server, done in a worker thread so that no request waits for another. */
import Database from "better-sqlite3";
import { checkFile } from "@/core/checks/file";
import { Finding } from "@/core/checks/finding";
import { applyEdits, Edit } from "@/core/edits";
import { FileRetractions, fileRetractions } from "@/core/edits/edit";
import { Splice, Splicer } from "@/core/edits/splice";
import { ProgramReader, ProgramTables } from "@/core/gcode/read";
import { comparePlan, Mismatch, ProofLayer, proofLayers, settingsByLayer } from "@/core/heightplan/proof";
import { limitsFor } from "@/core/motion/limits";
import { ProgramReport, reportOf } from "@/core/report/report";
import { JobProgram, jobProgram } from "@/core/report/progress";
import { refuse, Result, succeed } from "@/core/result";
import { headOf, Printer } from "@/core/shelf/printer";
import { buildTrial, TrialInput } from "@/core/trials/build";
import { inspectTrial } from "@/core/trials/inspect";
import { fileChunks, FileSummary } from "@/server/db/files";

export interface TaskTools {
  /** A connection of the worker's own, for reading only. */
  database(): Database.Database;
  progress(share: number): void;
}

export const tasks = {
  /** The finished program of a trial with its findings. */
  buildTrial(input: TrialInput): { bytes: Uint8Array; findings: Finding[] } {
    const built = buildTrial(input);
    const { findings } = inspectTrial(input, built);
    return { bytes: built.bytes, findings };
  },

  /** What the finished program of a trial really commands. */
  proveTrial(input: TrialInput): { layers: ProofLayer[]; findings: Finding[]; passed: string[] } {
    const built = buildTrial(input);
    const { tables, byLayer, findings, passed } = inspectTrial(input, built);
    return { layers: proofLayers(tables, byLayer), findings, passed };
  },

  /** The program of a job with what is shown while it runs. Findings of severity “stop” refuse it. */
  jobProgram(source: JobSource, tools: TaskTools): Result<JobProgram> {
    let bytes: Uint8Array;
    let tables: ProgramTables;
    if ("input" in source) {
      const built = buildTrial(source.input);
      const inspected = inspectTrial(source.input, built);
      const stop = inspected.findings.find(({ severity }) => severity === "stop");
      if (stop) return refuse(`This file would do harm, so it is not sent. ${stop.message}`);
      ({ bytes } = built);
      ({ tables } = inspected);
    } else {
      const chunks = [...spliced(fileChunks(tools.database(), source.fileId), JSON.parse(source.splices) as Splice[])];
      bytes = Buffer.concat(chunks);
      tables = readChunks([bytes], bytes.length, tools);
    }
    const printer = "input" in source ? source.input.printer : source.printer;
    return succeed(jobProgram(bytes, tables, limitsFor(printer)));
  },

  /** Reads a received file; refused with a sentence if it is no program that prints something. */
  readFile(
    { fileId, name, sizeBytes, printer }: { fileId: number; name: string; sizeBytes: number; printer: Printer },
    tools: TaskTools,
  ): Result<{ report: string; insideMoves: string; summary: FileSummary }> {
    const tables = readChunks(fileChunks(tools.database(), fileId), sizeBytes, tools);
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
    const { report } = reportOf(tables, limitsFor(printer), headOf(printer));
    return succeed({
      report: JSON.stringify(report),
      insideMoves: JSON.stringify(fileRetractions(tables)),
      summary: {
        layers: report.layers.length,
        topMm: Math.max(...report.layers.map(({ zMm }) => zMm)),
        seconds: report.seconds,
        filamentMm: report.filament.reduce((sum, { mm }) => sum + mm, 0),
        cucharaLines: report.cuchara.length,
      },
    });
  },

  /** Works out what a stack of edits puts in and takes out. */
  applyEdits({ report, insideMoves, edits, printer }: EditInput): Result<{
    splices: string;
    edits: { kind: string; changedLines: number }[];
    findings: Finding[];
    inserted: { line: number; layer: number; zMm: number; text: string }[];
    removed: { line: number }[];
    planned: Record<string, (number | null)[]>;
  }> {
    const parsed = JSON.parse(report) as ProgramReport;
    const applied = applyEdits(edits, parsed, printer, parseRetractions(insideMoves));
    if (!applied.ok) return applied;
    const { splices, findings, planned } = applied.value;
    return succeed({
      splices: JSON.stringify(splices),
      edits: applied.value.edits,
      findings: [...withoutLifted(checkFile(parsed, printer), edits), ...findings],
      inserted: splices
        .filter(({ insert }) => insert !== "")
        .slice(0, 500)
        .map((splice) => placeOf(splice, parsed)),
      removed: splices
        .filter(({ removeBytes, insert }) => removeBytes > 0 && insert === "")
        .slice(0, 500)
        .map(({ line }) => ({ line })),
      planned: Object.fromEntries(
        planned
          .flatMap(({ planned: ofTool }) => Object.entries(ofTool))
          .map(([key, values]) => [key, Array.from(values, (value) => (Number.isNaN(value) ? null : value))]),
      ),
    });
  },

  /** Reads the edited file back and holds it against what the edits want. */
  proveFile(
    {
      fileId,
      sizeBytes,
      report,
      insideMoves,
      splices,
      edits,
      printer,
    }: EditInput & { fileId: number; sizeBytes: number; splices: string },
    tools: TaskTools,
  ): Result<{ layers: ProofLayer[]; mismatches: Mismatch[]; passed: string[] }> {
    const tables = readChunks(
      spliced(fileChunks(tools.database(), fileId), JSON.parse(splices) as Splice[]),
      sizeBytes,
      tools,
    );
    const applied = applyEdits(edits, JSON.parse(report) as ProgramReport, printer, parseRetractions(insideMoves));
    if (!applied.ok) return applied;
    const { byLayer } = settingsByLayer(tables);
    const mismatches = applied.value.planned.flatMap(({ tool, planned }) =>
      comparePlan(tables.layers, settingsByLayer(tables, tool).byLayer, planned, printer),
    );
    return succeed({
      layers: proofLayers(tables, byLayer),
      mismatches: mismatches
        .slice(0, 500)
        .map((one) => ({ ...one, commanded: Number.isNaN(one.commanded) ? -1 : one.commanded })),
      passed: mismatches.length === 0 ? ["Every layer commands what the plan says."] : [],
    });
  },
};

/** Where a job's program comes from. */
export type JobSource = { input: TrialInput } | { fileId: number; splices: string; printer: Printer };

/** What edits are worked out from; `insideMoves` is null for files read before it was kept. */
interface EditInput {
  report: string;
  insideMoves: string | null;
  edits: Edit[];
  printer: Printer;
}

function parseRetractions(insideMoves: string | null): FileRetractions | null {
  return insideMoves === null ? null : (JSON.parse(insideMoves) as FileRetractions | null);
}

export type Tasks = typeof tasks;
export type TaskName = keyof Tasks;

function readChunks(chunks: Iterable<Uint8Array>, sizeBytes: number, { progress }: TaskTools): ProgramTables {
  const reader = new ProgramReader(sizeBytes, true);
  for (const chunk of chunks) {
    reader.push(chunk);
    progress(Math.min(0.95, reader.byteCount / Math.max(1, sizeBytes)));
  }
  return reader.finish();
}

function* spliced(chunks: Iterable<Uint8Array>, splices: Splice[]): Generator<Uint8Array> {
  const splicer = new Splicer(splices);
  for (const chunk of chunks) yield* splicer.push(chunk);
  yield* splicer.end();
}

/** Findings about the file as it came, but for those that the edits mend already. */
function withoutLifted(findings: Finding[], edits: Edit[]): Finding[] {
  return findings.filter(
    ({ mend }) =>
      !edits.some(
        (edit) =>
          edit.kind === "lift-out" &&
          mend?.edit?.what === edit.what &&
          (edit.what === "cuchara" ||
            (mend.edit.settings ?? []).every((key) =>
              (edit.settings ?? ["nozzleTemperature", "bedTemperature"]).includes(key),
            )),
      ),
  );
}

function placeOf(splice: Splice, { layers }: ProgramReport) {
  const layer = layers[splice.layer ?? -1];
  return { line: splice.line, layer: layer?.index ?? 0, zMm: layer?.zMm ?? 0, text: splice.insert.trimEnd() };
}
