/** Line numbers and checksums, as the receiving end looks at them. */
import { xorChecksum } from "../gcode/checksum";

/** What is wrong with a received line, or null: lines without number and checksum are taken as they are. */
export function numberedProblem(text: string, lastNumber: number): string | null {
  const trimmed = text.trim();
  const numbered = /^N\s*(-?\d+)/i.exec(trimmed);
  const star = trimmed.lastIndexOf("*");
  if (star >= 0) {
    const told = Number(trimmed.slice(star + 1).trim());
    const sum = xorChecksum(Uint8Array.from(trimmed.slice(0, star), (letter) => letter.charCodeAt(0)));
    if (!(told === sum)) return `checksum does not fit, last line: ${lastNumber}`;
  }
  if (!numbered) return null;
  if (star < 0) return `line number without checksum, last line: ${lastNumber}`;
  const number = Number(numbered[1]);
  const sets = /^N\s*-?\d+\s*M110\b/i.test(trimmed);
  return sets || number === lastNumber + 1 ? null : `line number is not the next, last line: ${lastNumber}`;
}
