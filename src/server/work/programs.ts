/** Programs that are written here: kept among the opened files, with a text that can be changed. */
import { CHUNK_BYTES, fileChunks, files, StoredFile } from "../db/files";
import { database } from "../db/connection";
import { refuseStale } from "../db/rows";
import { missing, Refused } from "../refused";
import { runTask } from "../tasks/pool";
import { printerFor } from "./files";

export const MOST_TEXT_LETTERS = 2_000_000;

export interface WrittenProgram {
  id: number;
  name: string;
  text: string;
  version: number;
  layers: number;
}

/** The program, or a 404; a file that came from elsewhere is none. */
export function programOf(id: number): StoredFile {
  const file = files.get(id);
  if (!file?.written) throw missing(`There is no program ${id}.`);
  return file;
}

export function writtenProgram(id: number): WrittenProgram {
  const file = programOf(id);
  const text = Buffer.concat([...fileChunks(database(), id)]).toString("utf8");
  return { id, name: file.name, text, version: file.version, layers: file.summary?.layers ?? 0 };
}

/** Keeps a new program; its id. */
export async function writeProgram(name: string, text: string, signal: AbortSignal): Promise<number> {
  const bytes = Buffer.from(text);
  const read = await runTask("readWritten", { bytes, printer: printerFor({ printerId: null }) }, { signal });
  const id = files.begin(name, null, true);
  for (let at = 0; at < bytes.length; at += CHUNK_BYTES) files.append(id, at, bytes.subarray(at, at + CHUNK_BYTES));
  files.finish(id, bytes.length, read);
  return id;
}

/** Another name or text; refused if somebody else has changed it since `seen`. */
export async function rewriteProgram(
  id: number,
  { name, text, version: seen }: { name?: string; text?: string; version?: number },
  signal: AbortSignal,
): Promise<WrittenProgram> {
  const before = programOf(id);
  const current = writtenProgram(id);
  if (seen !== undefined && seen !== before.version) refuseStale("program", current, seen);
  const bytes = Buffer.from(text ?? current.text);
  const read = await runTask("readWritten", { bytes, printer: printerFor(before) }, { signal });
  if (files.get(id)?.version !== before.version) {
    throw new Refused("conflict", "A newer text of this program came in meanwhile, so this one was not stored.", {
      current: writtenProgram(id),
    });
  }
  files.rewrite(id, name ?? before.name, bytes, read);
  return writtenProgram(id);
}
