/** What is done with opened files, whoever asks for it. */
import { Edit, editsSchema } from "@/core/edits";
import { bedCentre, bedDepthMm, Printer } from "@/core/shelf/printer";
import { readBench } from "../db/bench";
import { splicedChunks } from "@/core/edits/splices/splicer";
import { database } from "../db/connection";
import { CHUNK_BYTES, fileChunks, files, StoredFile } from "../db/files";
import { KeptBlock, splicesOfResult } from "../db/edit-blocks";
import { holdResult, keepResult, throwResultsAway } from "../db/edit-results";
import { gathered } from "../db/gathered";
import { printers } from "../db/printers";
import { log } from "../log";
import { refuseStale } from "../db/rows";
import { missing, Refused } from "../refused";
import { runTask } from "../tasks/pool";
import type { Tasks } from "../tasks/catalogue";
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
  const { id: fileId, sizeBytes, name } = file;
  return { fileId, sizeBytes, name, report: await reportFor(file, signal), edits, printer: printerFor(file) };
}

export function storedEdits(file: StoredFile): Edit[] {
  return editsSchema.parse(JSON.parse(file.edits));
}

/** The edits of a file as they stand, and what comes of them; refused if they do not fit any more. */
export async function currentEdits(file: StoredFile, signal: AbortSignal) {
  const edits = storedEdits(file);
  const holdsFor = answerHoldsFor(file, file.version);
  const stored = files.editAnswer(file.id, holdsFor);
  if (stored !== null) return { ...(JSON.parse(stored) as EditAnswer), stack: edits, version: file.version };
  const applied = await runTask("applyEdits", await editInput(file, edits, signal), { signal });
  if (!applied.ok) throw new Refused("conflict", applied.message, { field: applied.field });
  const answer = applied.value;
  files.writeEditAnswer(file.id, JSON.stringify(answer), holdsFor);
  return { ...answer, stack: edits, version: file.version };
}

type EditAnswer = Extract<Awaited<ReturnType<Tasks["applyEdits"]>>, { ok: true }>["value"];

/** Goes up whenever edits come to something else, or say more of it: an older answer is worked out anew. */
const ANSWER_VERSION = 2;

/** What the answer of a file's edits holds for: their version, and all of the printer they are worked out with. */
const answerHoldsFor = (file: { printerId: number | null }, version: number) =>
  `${ANSWER_VERSION} ${version} ${JSON.stringify(printerFor(file))} ${reportStart(printerFor(file))}`;

/** The newest request a file's edits were changed by; an older one that takes longer does not overwrite it. */
const shared = globalThis as { cucharaEditTurns?: { newest: Map<number, number>; last: number } };
const turns = () => (shared.cucharaEditTurns ??= { newest: new Map<number, number>(), last: 0 });

/**
 * Lays a stack of edits over a file; refused with field and reason if one cannot be done, and then nothing is changed. `seen` is the
 * version its sender saw.
 */
export async function changeEdits(file: StoredFile, edits: Edit[], signal: AbortSignal, seen?: number) {
  refuseStale("file", { ...file, edits: JSON.parse(file.edits) as unknown } as { version: number }, seen);
  const turn = ++turns().last;
  turns().newest.set(file.id, turn);
  const { applied, blocks } = await apply(await editInput(file, edits, signal), signal);
  if (!applied.ok) throw new Refused("invalid", applied.message, { field: applied.field });
  const answer = applied.value;
  const refuseOvertaken = () => {
    if (turns().newest.get(file.id) === turn) return;
    throw new Refused("conflict", "A newer change of these edits came in meanwhile, so this one was not stored.", {
      current: files.get(file.id),
    });
  };
  refuseOvertaken();
  const resultId = await keepResult(file.id, blocks);
  refuseOvertaken();
  turns().newest.delete(file.id);
  const version = files.writeEdits(file.id, JSON.stringify(edits), resultId, seen);
  if (version === null) throw missing(`There is no file ${file.id}.`);
  void throwEarlierAway(file.id);
  files.writeEditAnswer(file.id, JSON.stringify(answer), answerHoldsFor(file, version));
  return { ...answer, stack: edits, version };
}

/** Applies edits; with the blocks of what they come to. */
async function apply(input: Awaited<ReturnType<typeof editInput>>, signal: AbortSignal) {
  const blocks: KeptBlock[] = [];
  const onPart = (block: unknown) => void blocks.push(block as KeptBlock);
  return { applied: await runTask("applyEdits", { ...input, tellsBlocks: true }, { signal, onPart }), blocks };
}

/** Throws away what the edits of a file came to earlier, but for the last time. What is left by an end of the program goes later. */
async function throwEarlierAway(fileId: number): Promise<void> {
  try {
    for (const _slice of throwResultsAway(2, { fileId })) await new Promise((resolve) => setImmediate(resolve));
  } catch (error) {
    log().warn({ err: error, fileId }, "what edits came to earlier was not thrown away");
  }
}

/**
 * Says which printer a file is for: it is read as that one reads, and its edits are said in that one's words. Refused, and nothing changed, if
 * one of them cannot be done there. `seen` is the version its sender saw.
 */
export async function changePrinter(file: StoredFile, printerId: number, signal: AbortSignal, seen?: number) {
  if (!printers.get(printerId))
    throw new Refused("invalid", `There is no printer ${printerId}.`, { field: "printerId" });
  refuseStale("file", file, seen);
  const there = { ...file, printerId };
  const { applied, blocks } = await apply(await editInput(there, storedEdits(file), signal), signal);
  if (!applied.ok) {
    throw new Refused("invalid", `One of the edits cannot be done on that printer: ${applied.message}`, {
      field: "printerId",
    });
  }
  const resultId = await keepResult(file.id, blocks);
  const version = files.writePrinter(file.id, printerId, resultId, file.version);
  if (version === null) throw missing(`There is no file ${file.id}.`);
  void throwEarlierAway(file.id);
  return files.get(file.id)!;
}

/** What edit `index` of a file's stack changes, before and after; refused if it cannot be done any more. */
export async function previewEdit(
  file: StoredFile,
  { index, from, count }: { index: number; from: number; count: number },
  signal: AbortSignal,
) {
  const edits = storedEdits(file);
  if (index >= edits.length) throw missing(`There is no edit ${index} over this file; they count from 0.`);
  const input = { ...(await editInput(file, edits, signal)), index, from, count };
  const preview = await runTask("previewEdit", input, { signal });
  if (!preview.ok) throw new Refused("conflict", preview.message, { field: preview.field });
  return preview.value;
}

/** What is looked into: the file as it came, or with its edits. */
export const lookInput = ({ id, version, editResultId }: StoredFile, isEdited: boolean) => ({
  fileId: id,
  version,
  resultId: isEdited ? editResultId : null,
});

/** The edited file as an opened file of its own; its id. */
export function saveEdited(file: StoredFile, name: string, signal: AbortSignal): Promise<number> {
  const chunks = splicedChunks(fileChunks(database(), file.id), splicesOfResult(database(), file.editResultId));
  return keepChunks(chunks, name, { printerId: file.printerId }, signal).finally(holdResult(file.editResultId));
}

/** A program made here as an opened file; refused if it prints nothing. */
export function keepProgram(bytes: Uint8Array, name: string, printerId: number, signal: AbortSignal): Promise<number> {
  return keepChunks([bytes], name, { printerId }, signal);
}

async function keepChunks(
  chunks: Iterable<Uint8Array>,
  name: string,
  { printerId }: { printerId: number | null },
  signal: AbortSignal,
): Promise<number> {
  return keepFile({ name, printerId }, signal, async (append) => {
    for (const chunk of gathered(chunks, CHUNK_BYTES)) {
      append(chunk);
      // Other requests have their turn between two chunks.
      await new Promise((resolve) => setImmediate(resolve));
      signal.throwIfAborted();
    }
  });
}

/**
 * Keeps what `feed` hands on as an opened file; its id. Refused if it is no program that prints something; what breaks off, is cancelled or
 * refused leaves nothing behind.
 */
export async function keepFile(
  { name, printerId }: { name: string; printerId: number | null },
  signal: AbortSignal,
  feed: (append: (bytes: Uint8Array) => void) => Promise<void>,
): Promise<number> {
  const printer = printerFor({ printerId });
  const id = files.begin(name, printerId);
  try {
    let sizeBytes = 0;
    await feed((bytes) => {
      files.append(id, sizeBytes, bytes);
      sizeBytes += bytes.length;
    });
    const read = await runTask("readFile", { fileId: id, name, sizeBytes, printer }, { signal });
    if (!read.ok) throw new Refused("unreadable", read.message, { field: read.field });
    if (!files.finish(id, sizeBytes, read.value)) throw missing(`There is no file ${id}.`);
    return id;
  } catch (error) {
    files.discard(id);
    throw error;
  }
}

export interface MergeRequest {
  with: number;
  tools: [number, number];
  idleBelowC: number;
  park?: { x: number; y: number };
  name?: string;
}

/** Two files as one print, as an opened file of its own; its id. Refused with the field if they cannot be one. */
export async function mergedFile(file: StoredFile, request: MergeRequest, signal: AbortSignal): Promise<number> {
  const other = files.get(request.with);
  if (!other) throw missing(`There is no file ${request.with}.`);
  const printer = printerFor(file);
  const centre = bedCentre(printer);
  const park = request.park ?? { x: centre.x, y: centre.y - bedDepthMm(printer) / 2 + PARKED_FROM_EDGE_MM };
  const plain = (name: string) => name.replace(/\.\w+$/, "");
  const name = request.name ?? `${plain(file.name)}-and-${plain(other.name)}.gcode`;
  const pair = [file, other].map(({ id, sizeBytes, name: called }, i) => ({
    ...{ fileId: id, sizeBytes, name: called, tool: request.tools[i] },
  }));
  return keepFile({ name, printerId: file.printerId }, signal, async (append) => {
    const merged = await runTask(
      "mergeFiles",
      { files: [pair[0], pair[1]], printer, request: { idleBelowC: request.idleBelowC, park } },
      { signal, onPart: (piece) => append(piece as Uint8Array) },
    );
    if (!merged.ok) throw new Refused("invalid", merged.message, { field: merged.field });
  });
}

/** Tools are changed so far from the bed's front edge, mm: away from the piece. Common practice, no source. */
const PARKED_FROM_EDGE_MM = 10;
