/** A line with other figures in its words: everything else of it stays letter by letter. */
import { plainNumber } from "../units";
import type { LineChange } from "./moving-lines";

/** The line as it is with the change. A feed it has not is put behind its last word. */
export function changedText({ line: { text }, e, feed }: LineChange): string {
  let changed = text;
  if (e !== undefined) changed = withWord(changed, "E", plainNumber(e, 5));
  if (feed !== undefined) changed = withWord(changed, "F", plainNumber(feed, feed < 200 ? 2 : 0));
  return changed;
}

/** The figure of the first word with `letter` on a line, before any comment; null if it has none. */
export function figureOf(text: string, letter: string): number | null {
  const written = writtenFigure(text, letter);
  return written === null ? null : Number(written);
}

/** The same as it is written. */
export function writtenFigure(text: string, letter: string): string | null {
  const found = figureSpan(text, letter);
  return found && text.slice(...found);
}

/** The line with another figure for a word; a word it has not is put behind its last. */
export function withWord(text: string, letter: string, figure: string): string {
  const span = figureSpan(text, letter);
  if (span) return text.slice(0, span[0]) + figure + text.slice(span[1]);
  const comment = text.search(/[;(]/);
  const end = (comment < 0 ? text : text.slice(0, comment)).trimEnd().length;
  return `${text.slice(0, end)} ${letter}${figure}${text.slice(end)}`;
}

/**
 * Where the figure of a word stands in the line. Figures as the scanner knows them, without exponents: in `G1F2100E-1` the E is a word of its
 * own. Comments in brackets may stand anywhere; one behind a semicolon ends the line (NIST RS274/NGC Interpreter, version 3, 3.3).
 */
function figureSpan(text: string, letter: string): [number, number] | null {
  const code = text.replace(/;.*$/, "").replace(/\([^)]*\)?/g, (comment) => " ".repeat(comment.length));
  const found = new RegExp(`${letter}\\s*([-+]?(?:\\d+\\.?\\d*|\\.\\d+))`, "i").exec(code);
  if (!found) return null;
  const end = found.index + found[0].length;
  return [end - found[1].length, end];
}
