/** A file's lines held against what they must be, line by line: for edits that are asked for by the line. */
import { Column } from "../gcode/columns";
import type { Line } from "../gcode/scan";
import type { SeenFile } from "./edit";

const encoder = new TextEncoder();

/**
 * A sentence where a line of the file after is not what must stand there; none where all are.
 *
 * @param wanted the lines that stand for a line of the file before; null where it stays
 * @param behind the lines that stand behind all of them, asked when all were visited
 */
export function differsInText(
  before: SeenFile,
  after: SeenFile,
  wanted: (line: Line) => readonly string[] | null,
  behind: () => readonly string[] = () => [],
): string[] {
  const must = new Column((length) => new Uint32Array(length));
  const put = (lines: readonly string[]) => {
    for (const text of lines) {
      const bytes = encoder.encode(text);
      must.push(hashOf(bytes, 0, bytes.length));
    }
  };
  before.walk(
    (line) => {
      const lines = wanted(line);
      if (lines) put(lines);
      else must.push(hashOf(line.bytes, line.from, line.to));
    },
    { moves: true },
  );
  put(behind());
  const hashes = must.take();
  let at = 0;
  let differs = -1;
  after.walk(
    (line) => {
      if (differs < 0 && hashOf(line.bytes, line.from, line.to) !== hashes[at]) differs = line.number;
      at++;
    },
    { moves: true },
  );
  if (differs < 0 && at === hashes.length) return [];
  return [`Line ${(differs < 0 ? Math.min(at, hashes.length) : differs) + 1} is not the line that was asked for.`];
}

/** FNV-1a, 32 bits. */
function hashOf(bytes: Uint8Array, from: number, to: number): number {
  let hash = 0x811c9dc5;
  for (let i = from; i < to; i++) hash = Math.imul(hash ^ bytes[i], 0x01000193);
  return hash >>> 0;
}
