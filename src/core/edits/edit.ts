/** One change to an opened file. Edits stack; the original is never touched. */
import { z } from "zod";
import { Finding } from "../checks/finding";
import { PlannedValues } from "../heightplan/planned";
import { ProgramReport } from "../report/report";
import { Result } from "../result";
import { Printer } from "../shelf/printer";
import { Splice } from "./splice";

/** What an edit may look at. */
export interface EditContext {
  report: ProgramReport;
  printer: Printer;
  /** Lines of the original (from 0) that edits before this one take out. */
  removedLines: ReadonlySet<number>;
}

export interface EditOutcome {
  splices: Splice[];
  findings: Finding[];
  /** What the edit wants layer by layer, for the proof. */
  planned?: PlannedValues;
}

export interface EditKind<T extends { kind: string } = { kind: string }> {
  schema: z.ZodType<T>;
  apply(edit: T, context: EditContext): Result<EditOutcome>;
}

/** The value a file itself has in force at the start of a layer, lines taken out by edits left aside; null if unknown. */
export function ownValueAt(
  { report, removedLines }: EditContext,
  key: keyof ProgramReport["settings"],
  layer: number,
): number | null {
  let value = report.settings[key][0] ?? null;
  for (const change of report.changes) {
    if (change.layer > layer || (change.layer === layer && change.within)) break;
    if (change.key === key && !change.ours && !removedLines.has(change.line)) value = change.value;
  }
  return value;
}
