/** Lines that are kept as text, with other figures in their words: everything else of them stays letter by letter. */
import { plainNumber } from "../units";
import { EditedLine } from "./edited-line";
import type { LineChange } from "./moving-lines";

const edited = new EditedLine();

/** The line as it is with the change. A feed it has not is put behind its last word. */
export function changedText({ line: { text }, e, feed }: LineChange): string {
  let changed = text;
  if (e !== undefined) changed = withWord(changed, "E", plainNumber(e, 5));
  if (feed !== undefined) changed = withWord(changed, "F", plainNumber(feed, feed < 200 ? 2 : 0));
  return changed;
}

/**
 * The figure of the first word with `letter` on a line; null if it has none.
 *
 * @example
 * figureOf("G1 X10 (Y4) Y5", "Y"); // 5
 */
export function figureOf(text: string, letter: string): number | null {
  const word = edited.takeText(text).wordOf(letter.charCodeAt(0));
  return word < 0 ? null : edited.figureOf(word);
}

/**
 * The line with another figure for a word; a word it has not is put behind its last.
 *
 * @example
 * withWord("G1 X10 E0.5 ; wall", "F", "1800"); // "G1 X10 E0.5 F1800 ; wall"
 */
export function withWord(text: string, letter: string, figure: string): string {
  const byte = letter.charCodeAt(0);
  const word = edited.takeText(text).wordOf(byte);
  if (word < 0) edited.add(byte, figure);
  else edited.setWritten(word, figure);
  return edited.text();
}
