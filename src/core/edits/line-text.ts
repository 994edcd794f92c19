/** The text of a line, and what is done with it letter by letter. */
import type { Line } from "../gcode/scan";

const decoder = new TextDecoder();

export const decodeLine = (line: Line): string => decoder.decode(line.bytes.subarray(line.from, line.to));

/** Whether the line's bytes are text that can be written back as they were. */
export const isWhole = (text: string): boolean => !text.includes("\uFFFD");

/** Whether a line is nothing but ASCII: nearly all are, and then its bytes are text. */
export function isPlain({ bytes, from, to }: Line): boolean {
  for (let at = from; at < to; at++) if (bytes[at] > 127) return false;
  return true;
}

/** Whether another line can stand in its place: its bytes are text, and it carries no checksum. */
export const canBeWritten = (line: Line): boolean => line.ownChecksum < 0 && isWhole(decodeLine(line));

/** A line that is kept to be read and does nothing any more. */
export const asComment = (text: string, note: string): string =>
  `; cuchara: ${note}: ${text.replace(/[\r\n]/g, " ").trim()}`;
