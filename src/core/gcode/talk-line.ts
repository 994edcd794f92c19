/** One line of talk: for explaining it, for obeying it, and for single questions. Its words are cut as those of whole programs are. */
import { Command } from "../machine/command";
import { commandFor } from "../machine/commands";
import type { Words } from "../machine/words";
import { LineWords, namedPairs, nameOf } from "./line-words";
import { Line, splitWords } from "./scan";

/** No printer takes a longer line; what stands behind is not looked at. */
const LONGEST_TALK = 4096;

export interface LineWord {
  /** Letter or key, in capitals. */
  name: string;
  /** NaN where there is no figure. */
  value: number;
  /** As it was written. */
  text: string;
}

export interface TalkLine extends Words {
  /** `M104`, `G1`, `T0`, `SET_RETRACTION`; empty for a line without a command. */
  code: string;
  words: LineWord[];
  /** Line number, or null. */
  number: number | null;
  /** Checksum, or null. */
  checksum: number | null;
  comment: string;
}

const encoder = new TextEncoder();

function scan(text: string): Line {
  const bytes = encoder.encode(`${text.slice(0, LONGEST_TALK)}\n`);
  const line = new Line();
  splitWords(line, bytes, 0, bytes.length - 1);
  return line;
}

/** Cuts a line into its first command and that command's words. Never fails: what cannot be read is left out. */
export function readTalkLine(text: string): TalkLine {
  const line = scan(text);
  const about = {
    number: Number.isNaN(line.ownNumber) ? null : line.ownNumber,
    checksum: line.ownChecksum < 0 ? null : line.ownChecksum,
    comment: line.comment(),
  };
  const made = (code: string, words: LineWord[], free = ""): TalkLine => ({
    ...about,
    code,
    words,
    text: free,
    count: words.length,
    value: (name) => words.find((word) => word.name === name)?.value ?? NaN,
    has: (name) => words.some((word) => word.name === name),
  });
  if (line.named) {
    const code = line.namedCommand();
    const words = namedPairs(code).map(({ key, value, text: written }) => ({ name: key, value, text: written }));
    return made(nameOf(code), words, code);
  }
  const all = wordsOf(line);
  const [first, ...rest] = all;
  if (!first || !"GMT".includes(first.name) || Number.isNaN(first.value)) return made("", all);
  const next = rest.findIndex(({ name }) => name === "G" || name === "M");
  return made(`${first.name}${first.value}`, next < 0 ? rest : rest.slice(0, next), line.freeText());
}

function wordsOf(line: Line): LineWord[] {
  const decode = (from: number, to: number) => new TextDecoder().decode(line.bytes.subarray(from, to));
  return Array.from({ length: line.wordCount }, (_, i) => {
    const lastEnd = line.wordsEnd() > line.starts[i] ? line.wordsEnd() : line.to;
    const end = i + 1 < line.wordCount ? line.starts[i + 1] : lastEnd;
    return {
      name: String.fromCharCode(line.letters[i]),
      value: line.values[i],
      text: decode(line.starts[i], end).replace(/[\s(].*$/s, (rest) => figureBehind(rest)),
    };
  });
}

/** `M 104`: the figure may stand apart from its letter. */
function figureBehind(rest: string): string {
  return /^\s+[-+.\d]/.test(rest) ? rest.trimEnd().replace(/\s*\(.*$/s, "") : "";
}

/** Hands every command of a line to `each`, with its words and its place in the table (undefined if it has none). */
export function forEachTalked(text: string, each: (command: Command | undefined, words: Words) => void): void {
  const line = scan(text);
  const words = new LineWords(line);
  if (line.named) return each(commandFor(nameOf(line.namedCommand())), words.setNamed(line));
  let from = 0;
  for (let i = 1; i <= line.wordCount; i++) {
    const letter = line.letters[i];
    if (i < line.wordCount && letter !== 71 && letter !== 77) continue;
    const code = `${String.fromCharCode(line.letters[from])}${line.values[from]}`;
    each(commandFor(code), words.set(line, from + 1, i));
    from = i;
  }
}
