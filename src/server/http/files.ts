/** What the file routes share. */
import { plainNumber } from "@/core/units";
import { Edit, editsSchema } from "@/core/edits";
import { Printer } from "@/core/shelf/printer";
import { readBench } from "../db/bench";
import { CHUNK_BYTES, files, StoredFile } from "../db/files";
import { printers } from "../db/printers";
import { reportStart } from "../tasks/stored-report";
import { runTask } from "../tasks/pool";
import { HttpError, notFound, pathId } from "./respond";

export const MOST_FILE_BYTES = 200 * 1000 * 1000;

/** The file of a path, or a 404. */
export function fileOf(params: Record<string, string>): StoredFile {
  const id = pathId(params, "file");
  const file = files.get(id);
  if (!file) throw notFound(`There is no file ${id}.`);
  return file;
}

/** The printer a file is looked at for: its own, else the one on the bench; a 409 if the shelf is empty. */
export function printerFor(file: { printerId: number | null }): Printer {
  const own = file.printerId === null ? null : printers.get(file.printerId);
  const benchId = readBench().printerId;
  const printer = own ?? (benchId === null ? null : printers.get(benchId));
  if (!printer) throw new HttpError(409, "There is no printer on the shelf. Add one first.");
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

/**
 * Takes the bytes of an upload, stores them chunk by chunk and reads the program. An upload that breaks off, is cancelled
 * or is no program leaves nothing behind.
 */
export async function receiveFile(request: Request, name: string): Promise<number> {
  const limit = MOST_FILE_BYTES / 1e6;
  const tooLarge = () =>
    new HttpError(413, `“${name}” is larger than ${plainNumber(limit, 0)} MB, which is the most that can be opened.`, {
      field: "name",
    });
  if (Number(request.headers.get("content-length") ?? 0) > MOST_FILE_BYTES) throw tooLarge();
  const printerId = readBench().printerId;
  const printer = printerFor({ printerId });
  const id = files.begin(name, printerId);
  try {
    let stored = 0;
    let waiting: Uint8Array[] = [];
    let waitingBytes = 0;
    const store = () => {
      if (waitingBytes === 0) return;
      files.append(id, stored, Buffer.concat(waiting));
      stored += waitingBytes;
      waiting = [];
      waitingBytes = 0;
    };
    for await (const chunk of (request.body ?? []) as unknown as AsyncIterable<Uint8Array>) {
      waiting.push(chunk);
      waitingBytes += chunk.length;
      if (stored + waitingBytes > MOST_FILE_BYTES) throw tooLarge();
      if (waitingBytes >= CHUNK_BYTES) store();
    }
    store();
    if (stored === 0)
      throw new HttpError(400, `“${name}” is empty. Choose the .gcode file your slicer wrote.`, { field: "name" });
    const read = await runTask(
      "readFile",
      { fileId: id, name, sizeBytes: stored, printer },
      { signal: request.signal },
    );
    if (!read.ok) throw new HttpError(422, read.message, { field: read.field });
    files.finish(id, stored, read.value);
    return id;
  } catch (error) {
    files.discard(id);
    throw error;
  }
}

/** Lays a stack of edits over a file; a 400 with field and reason if one cannot be done, and then nothing is changed. */
export async function changeEdits(file: StoredFile, edits: Edit[], signal: AbortSignal) {
  const applied = await runTask("applyEdits", await editInput(file, edits, signal), { signal });
  if (!applied.ok) throw new HttpError(400, applied.message, { field: applied.field });
  const { splices, ...answer } = applied.value;
  files.writeEdits(file.id, JSON.stringify(edits), splices);
  return { ...answer, stack: edits };
}
