/** Edits laid over a program that lies in memory. */
import { AppliedEdits, applyEdits, Edit, EditableFile } from "@/core/edits";
import { Proof, proveEdits } from "@/core/edits/prove";
import { readChunks, seeFile } from "@/core/edits/see-file";
import { noSplices, SpliceSet } from "@/core/edits/splices/packed";
import { applySplices } from "@/core/edits/splices/splicer";
import { ProgramTables } from "@/core/gcode/read";
import { comparePlan, Mismatch, settingsByLayer } from "@/core/heightplan/proof";
import { Result } from "@/core/result";
import { Printer } from "@/core/shelf/printer";
import { ladle } from "./demo";
import { bytesOf, textOf } from "./programs";

/** A program that lies in memory, as a stack of edits finds it. */
export function editable(text: string, printer: Printer = ladle): EditableFile {
  const bytes = bytesOf(text);
  const read = (set: SpliceSet) => {
    const chunks = () => [applySplices(bytes, set)];
    return seeFile(readChunks(chunks(), printer), chunks, printer);
  };
  return { original: read(noSplices), read };
}

/** The stack applied, or why it was refused. */
export function tryEdits(text: string, edits: Edit[], printer: Printer = ladle): Result<AppliedEdits> {
  return applyEdits(edits, editable(text, printer), printer);
}

/** What the proof says of the stack; fails if the edits are refused. */
export function proved(text: string, edits: Edit[], printer: Printer = ladle): Proof {
  const proof = proveEdits(edits, editable(text, printer), printer);
  if (!proof.ok) throw new Error(proof.message);
  return proof.value;
}

export interface Edited extends AppliedEdits {
  after: string;
  tables: ProgramTables;
  /** Where the edited text does not command what the stack wants. */
  mismatches: Mismatch[];
}

/** The edited text with all that is known of it; fails if the edits are refused. */
export function edited(text: string, edits: Edit[], printer: Printer = ladle): Edited {
  const applied = tryEdits(text, edits, printer);
  if (!applied.ok) throw new Error(applied.message);
  const after = textOf(applySplices(bytesOf(text), applied.value.splices));
  const tables = readChunks([bytesOf(after)], printer);
  const mismatches = applied.value.planned.flatMap(({ tool, planned }) =>
    comparePlan(tables.layers, settingsByLayer(tables, tool).byLayer, planned, printer),
  );
  return { ...applied.value, after, tables, mismatches };
}
