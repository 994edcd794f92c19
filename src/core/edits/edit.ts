/** One change to an opened file. Edits stack; the original is never touched. */
import { z } from "zod";
import { Finding } from "../checks/finding";
import { ProgramTables, RetractionLine, RetractionLines } from "../gcode/read";
import { PlannedValues } from "../heightplan/planned";
import { SettingChange } from "../heightplan/proof";
import { ProgramReport } from "../report/report";
import { Result } from "../result";
import { SettingKey, settingFor } from "../settings";
import { Printer } from "../shelf/printer";
import { Splice } from "./splice";

/** What an edit may look at. */
export interface EditContext {
  report: ProgramReport;
  printer: Printer;
  /** Lines of the original (from 0) that edits before this one take out. */
  removedLines: ReadonlySet<number>;
  /** How the file draws back, with the layer of every line; null if that was not kept. */
  retractions: FileRetractions | null;
}

export interface EditOutcome {
  splices: Splice[];
  findings: Finding[];
  /** What the edit wants layer by layer, for the proof, tool by tool. */
  planned?: PlannedForTool[];
}

export interface PlannedForTool {
  tool: number;
  planned: PlannedValues;
}

/** The lines of a file that draw back, as they are kept beside its report. */
export interface FileRetractions extends Omit<RetractionLines, "lines"> {
  lines: (RetractionLine & { layer: number })[];
}

/** A file's retractions with the layer each belongs to. */
export function fileRetractions({ retractions, layers }: ProgramTables): FileRetractions | null {
  if (!retractions) return null;
  let layer = -1;
  const lines = retractions.lines.map((line) => {
    while (layer + 1 < layers.length && line.line >= layers[layer + 1].insertLine) layer++;
    return { ...line, layer };
  });
  return { ...retractions, lines };
}

export interface EditKind<T extends { kind: string } = { kind: string }> {
  schema: z.ZodType<T>;
  apply(edit: T, context: EditContext): Result<EditOutcome>;
}

/** Whether a change of the file concerns the tool: settings that every tool has for itself are told apart where the file has several. */
export function concernsTool({ start = [] }: ProgramReport, change: SettingChange, tool: number): boolean {
  return !settingFor(change.key).perTool || start.length < 2 || change.tool === tool;
}

/** The value a file itself has in force for a tool at the start of a layer, lines taken out by edits left aside; null if unknown. */
export function ownValueAt(
  { report, removedLines }: EditContext,
  key: SettingKey,
  layer: number,
  tool: number,
): number | null {
  const { start = [], settings } = report;
  const ofTool = settingFor(key).perTool && start.length > 1;
  let value = (ofTool ? start.find((one) => one.tool === tool)?.settings[key] : settings[key]?.[0]) ?? null;
  for (const change of report.changes) {
    if (change.layer > layer || (change.layer === layer && change.within)) break;
    if (change.key !== key || change.ours || removedLines.has(change.line)) continue;
    if (concernsTool(report, change, tool)) value = change.value;
  }
  return value;
}
