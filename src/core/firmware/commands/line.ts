/** One line of talk, cut into its words: for explaining and for single questions, not for whole programs (see `gcode/scan`). */

export interface LineWord {
  /** Letter or key, in capitals. */
  name: string;
  /** NaN where there is no figure. */
  value: number;
  /** As it was written. */
  text: string;
}

export interface TalkLine {
  /** `M104`, `G1`, `T0`, `SET_RETRACTION`; empty for a line without a command. */
  code: string;
  words: LineWord[];
  /** Line number, or null. */
  number: number | null;
  /** Checksum, or null. */
  checksum: number | null;
  comment: string;
  /** Text behind a command that takes text. */
  text: string;
}

/** Cuts a line into command and words. Never fails: what cannot be read is left out. */
export function readTalkLine(line: string): TalkLine {
  const semicolon = line.indexOf(";");
  const comment = semicolon < 0 ? "" : line.slice(semicolon + 1).trim();
  let rest = (semicolon < 0 ? line : line.slice(0, semicolon)).replace(/\([^)]*\)/g, " ").trim();
  let number: number | null = null;
  let checksum: number | null = null;
  const numbered = /^N\s*(-?\d+)\s*/i.exec(rest);
  if (numbered) {
    number = Number(numbered[1]);
    rest = rest.slice(numbered[0].length);
  }
  const summed = /\*\s*(\d+)\s*$/.exec(rest);
  if (summed) {
    checksum = Number(summed[1]);
    rest = rest.slice(0, summed.index).trim();
  }
  const plain = { number, checksum, comment };
  const text = /^M0*(117|118)\b\s*(.*)$/i.exec(rest);
  if (text) return { ...plain, code: `M${text[1]}`, words: [], text: text[2] };
  const named = /^([A-Z_]{2,}[A-Z_0-9]*)(\s|$)/i.exec(rest);
  if (named) {
    const words = [...rest.slice(named[0].length).matchAll(/([A-Z_0-9]+)=(\S+)/gi)].map(([whole, name, value]) => ({
      name: name.toUpperCase(),
      value: Number(value),
      text: whole,
    }));
    return { ...plain, code: named[1].toUpperCase(), words, text: "" };
  }
  const all = [...rest.matchAll(/([A-Z])\s*([+-]?(?:\d+\.?\d*|\.\d+))?/gi)].map(([whole, letter, figure]) => ({
    name: letter.toUpperCase(),
    value: figure === undefined ? NaN : Number(figure),
    text: whole.trim(),
  }));
  const [first, ...words] = all;
  if (!first || !"GMT".includes(first.name) || Number.isNaN(first.value)) {
    return { ...plain, code: "", words: all, text: "" };
  }
  return { ...plain, code: `${first.name}${first.value}`, words, text: "" };
}

/** The figure of a word, or undefined. */
export function wordOf(line: TalkLine, name: string): number | undefined {
  const word = line.words.find((one) => one.name === name);
  return word === undefined || Number.isNaN(word.value) ? undefined : word.value;
}
