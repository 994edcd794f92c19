/** What the file routes share. */
import { plainNumber } from "@/core/units";
import { readBench } from "../db/bench";
import { CHUNK_BYTES, files, StoredFile } from "../db/files";
import { needRoom } from "../db/room";
import { pathId } from "./respond";
import { missing, Refused } from "../refused";
import { keepFile } from "../work/files";

export const MOST_FILE_BYTES = 200 * 1000 * 1000;

/** The file of a path, or a 404. */
export function fileOf(params: Record<string, string>): StoredFile {
  const id = pathId(params, "file");
  const file = files.get(id);
  if (!file) throw missing(`There is no file ${id}.`);
  return file;
}

/**
 * Takes the bytes of an upload, stores them chunk by chunk and reads the program. An upload that breaks off, is cancelled
 * or is no program leaves nothing behind.
 */
export async function receiveFile(request: Request, name: string): Promise<number> {
  const limit = MOST_FILE_BYTES / 1e6;
  const tooLarge = () =>
    new Refused(
      "too-large",
      `“${name}” is larger than ${plainNumber(limit, 0)} MB, which is the most that can be opened.`,
      {
        field: "name",
      },
    );
  if (Number(request.headers.get("content-length") ?? 0) > MOST_FILE_BYTES) throw tooLarge();
  needRoom(Number(request.headers.get("content-length") ?? 0));
  return keepFile({ name, printerId: readBench().printerId }, request.signal, async (append) => {
    let stored = 0;
    let waiting: Uint8Array[] = [];
    let waitingBytes = 0;
    const store = () => {
      if (waitingBytes === 0) return;
      needRoom(waitingBytes);
      append(Buffer.concat(waiting));
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
      throw new Refused("invalid", `“${name}” is empty. Choose the .gcode file your slicer wrote.`, { field: "name" });
  });
}
