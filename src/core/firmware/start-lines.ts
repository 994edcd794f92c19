/** Firmware values as lines at the end of a printer's start lines: for printers that store none, or are not to. */
import { readTalkLine } from "../gcode/talk-line";

/** How lines that were put in are known again. */
const MARK = "; tuned";

/** What a line sets: its command and the names of its words, so that `M92 X80` does not take `M92 E405` for itself. */
function setsOf(line: string): string {
  const { code, words } = readTalkLine(line);
  return [
    code,
    ...words.map(({ name, value }) => (name === "T" || name === "D" ? `${name}${value}` : name)).sort(),
  ].join(" ");
}

/**
 * Puts lines at the end of start lines. An earlier one that was put in and sets the same goes; lines somebody wrote himself stay, for the
 * later one counts anyway.
 */
export function withStartLines(before: string, lines: readonly string[]): { startLines: string; replaced: number } {
  const sets = new Set(lines.map(setsOf));
  const own = before.trimEnd().split("\n");
  const kept = own.filter((line) => !(line.trimEnd().endsWith(MARK) && sets.has(setsOf(line))));
  const added = lines.map((line) => `${line} ${MARK}`);
  return { startLines: [...kept, ...added].join("\n"), replaced: own.length - kept.length };
}

/** `Added to the start lines of Ladle 220: M92 E415.` */
export function sayAdded(lines: readonly string[], replaced: number, printer: string): string {
  const instead =
    replaced === 0
      ? ""
      : replaced === 1
        ? ", in place of the line that was there"
        : ", in place of those that were there";
  return `Added to the start lines of ${printer}${instead}: ${lines.join(", ")}.`;
}
