/** What is done with opened files, whoever asks for it. */
import { Edit, editsSchema } from "@/core/edits";
import { Printer } from "@/core/shelf/printer";
import { readBench } from "../db/bench";
import { files, StoredFile } from "../db/files";
import { printers } from "../db/printers";
import { refuseStale } from "../db/rows";
import { missing, Refused } from "../refused";
import { runTask } from "../tasks/pool";
import { reportStart } from "../tasks/stored-report";

/** The printer a file is looked at for: its own, else the one on the bench; a 409 if the shelf is empty. */
export function printerFor(file: { printerId: number | null }): Printer {
  const own = file.printerId === null ? null : printers.get(file.printerId);
  const benchId = readBench().printerId;
  const printer = own ?? (benchId === null ? null : printers.get(benchId));
  if (!printer) throw new Refused("conflict", "There is no printer on the shelf. Add one first.");
  return printer;
}

/** A file's report for the printer it is looked at for, as JSON text: made anew if the printer, or the form of reports, has changed. */
export async function reportFor(file: StoredFile, signal: AbortSignal): Promise<string> {
  const printer = printerFor(file);
  const stored = files.report(file.id) ?? "";
  if (stored.startsWith(reportStart(printer))) return stored;
  const { report, summary } = await runTask(
    "readAgain",
    { fileId: file.id, sizeBytes: file.sizeBytes, printer },
    { signal },
  );
  files.writeReport(file.id, report, summary);
  return report;
}

/** All that edits of a file are worked out from. */
export async function editInput(file: StoredFile, edits: Edit[], signal: AbortSignal) {
  const { id: fileId, sizeBytes } = file;
  return { fileId, sizeBytes, report: await reportFor(file, signal), edits, printer: printerFor(file) };
}

export function storedEdits(file: StoredFile): Edit[] {
  return editsSchema.parse(JSON.parse(file.edits));
}

/** The edits of a file as they stand, and what comes of them; refused if they do not fit any more. */
export async function currentEdits(file: StoredFile, signal: AbortSignal) {
  const input = await editInput(file, storedEdits(file), signal);
  const applied = await runTask("applyEdits", input, { signal });
  if (!applied.ok) throw new Refused("conflict", applied.message, { field: applied.field });
  const { splices: _splices, ...answer } = applied.value;
  return { ...answer, stack: input.edits, version: file.version };
}

/** The newest wish a file's edits were changed by; an older one that takes longer does not overwrite it. */
const shared = globalThis as { cucharaEditTurns?: Map<number, number> };
const turns = () => (shared.cucharaEditTurns ??= new Map());

/**
 * Lays a stack of edits over a file; refused with field and reason if one cannot be done, and then nothing is changed. `seen` is the
 * version its sender saw.
 */
export async function changeEdits(file: StoredFile, edits: Edit[], signal: AbortSignal, seen?: number) {
  refuseStale("file", { ...file, edits: JSON.parse(file.edits) as unknown } as { version: number }, seen);
  const turn = (turns().get(file.id) ?? 0) + 1;
  turns().set(file.id, turn);
  const applied = await runTask("applyEdits", await editInput(file, edits, signal), { signal });
  if (!applied.ok) throw new Refused("invalid", applied.message, { field: applied.field });
  const { splices, ...answer } = applied.value;
  if (turns().get(file.id) !== turn) {
    throw new Refused("conflict", "A newer change of these edits came in meanwhile, so this one was not stored.", {
      current: files.get(file.id),
    });
  }
  turns().delete(file.id);
  const version = files.writeEdits(file.id, JSON.stringify(edits), splices, seen);
  if (version === null) throw missing(`There is no file ${file.id}.`);
  return { ...answer, stack: edits, version };
}
