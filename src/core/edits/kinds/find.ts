/** Lines that are found by a text, an expression or a command with conditions on its words, and what is made of them. */
import { z } from "zod";
import { refuse, Result, succeed } from "../../result";
import { bitOf, bitsOf, Field } from "../../trace/fields";
import { plainNumber, roundTo } from "../../units";
import { EditedLine } from "../../gcode/edited-line";
import { forEachCommand } from "../../gcode/line-words";
import type { Line } from "../../gcode/scan";
import { EditKind, SeenFile } from "../edit";
import { LineSplices } from "../line-splice";
import { asComment, canBeWritten, decodeLine } from "../line-text";
import { differsInText } from "../same-text";
import { layersOf, Part, parts, PlaceFinder, Scope, scopeFields } from "../scope";

interface Condition {
  word: string;
  is: ">" | "<" | "=" | "any";
  value?: number;
}

interface Found {
  text?: string;
  regexp?: string;
  command?: string;
  where?: Condition[];
}

interface FindScope extends Scope {
  part?: Part;
  tool?: number;
  in?: "commands" | "comments";
}

interface Act {
  replaceWith?: string;
  setWord?: { word: string; value: number };
  scaleWord?: { word: string; by: number };
  shiftWord?: { word: string; by: number };
  comment?: string;
  delete?: true;
  before?: string[];
  after?: string[];
}

export interface FindEdit {
  kind: "find";
  find: Found;
  scope: FindScope;
  act: Act;
  /** Lines (from 1) that are left as they are. */
  skip?: number[];
}

const word = z
  .string()
  .regex(/^[A-Za-z]$/, "A word of a command is one letter")
  .transform((letter) => letter.toUpperCase());
const oneLine = z
  .string()
  .max(500, "A line is at most 500 characters")
  .regex(/^[^\r\n]*$/, "One line each");
const lines = z.array(oneLine).max(50, "At most 50 lines");
/** No machine means more than this by any word; so no sum of figures grows beyond what can be written. */
const MOST_VALUE = 1e7;
const MOST_SCALE = 1000;
const value = z
  .number({ error: "The value must be a number" })
  .min(-MOST_VALUE, "No printer means a value that low: -10,000,000 at least")
  .max(MOST_VALUE, "No printer means a value that high: 10,000,000 at most");
const scaled = z.strictObject({
  word,
  by: z
    .number({ error: "By how much must be a number" })
    .min(-MOST_SCALE, "By -1000 times at least")
    .max(MOST_SCALE, "By 1000 times at most"),
});
const shifted = z.strictObject({ word, by: value });

const schema = z.strictObject({
  kind: z.literal("find"),
  find: z
    .strictObject({
      text: z.string().min(1, "Say what to look for").max(500).optional(),
      regexp: z.string().min(1, "Say what to look for").max(500).optional(),
      command: z
        .string()
        .regex(/^[A-Za-z]\d+(\.\d+)?$/, "A command is a letter and a number, like M106")
        .transform((code) => code.toUpperCase())
        .optional(),
      where: z
        .array(
          z.strictObject({
            word,
            is: z.enum([">", "<", "=", "any"], { error: "A word is >, <, = or any" }),
            value: value.optional(),
          }),
        )
        .max(10, "At most ten conditions")
        .optional(),
    })
    .refine(({ text, regexp, command }) => [text, regexp, command].filter((one) => one !== undefined).length === 1, {
      message: "Look for one of three: text, regexp or command",
    }),
  scope: z
    .strictObject({
      ...scopeFields,
      part: z.enum(parts, { error: `A file has three parts: ${parts.join(", ")}` }).optional(),
      tool: z.int().min(0, "Tools count from 0").max(15).optional(),
      in: z.enum(["commands", "comments"], { error: "Look in commands or in comments" }).optional(),
    })
    .default({}),
  act: z
    .strictObject({
      replaceWith: oneLine.optional(),
      setWord: z.strictObject({ word, value }).optional(),
      scaleWord: scaled.optional(),
      shiftWord: shifted.optional(),
      comment: z
        .string()
        .max(200)
        .regex(/^[^\r\n]*$/, "One line")
        .optional(),
      delete: z.literal(true).optional(),
      before: lines.optional(),
      after: lines.optional(),
    })
    .refine((act) => Object.values(act).some((one) => one !== undefined), {
      message: "Say what shall be made of the lines",
    }),
  skip: z.array(z.int().positive("Lines count from 1")).max(100_000).optional(),
}) as unknown as z.ZodType<FindEdit>;

/** Figures in a line have no more decimals than this. */
const DECIMALS = 5;
/** Places and filament are finer than they may be written; a duty, a temperature, a feed stays as whole as it is. */
const fine = new Set(["X", "Y", "Z", "I", "J", "K", "R", "E"]);

/** The figure as a word of its kind is written. */
function sayFigure(letter: string, value: number, written: string): string {
  const decimals = fine.has(letter) ? DECIMALS : Math.min(DECIMALS, written.split(".")[1]?.length ?? 0);
  return plainNumber(roundTo(value, decimals), decimals);
}

export const find: EditKind<FindEdit> = {
  label: "find",
  skipsItself: true,
  scopeIn: "scope",
  schema,
  asks(edit, { file }) {
    const seen = seenIn(edit);
    const scope = isWithin(edit.scope) ? layersOf(edit.scope, file) : null;
    const first = scope?.ok ? scope.value.first : -1;
    if (seen === null) return { until: ({ layer }) => layer >= first };
    return {
      bead(bead) {
        if (bead.layer >= first) bead.open |= seen;
        return true;
      },
      end: (end) => void (end.open |= seen),
    };
  },
  proves(edit, before, after) {
    const changer = changerOf(edit, before);
    if (!changer.ok) return [];
    return differsInText(before, after, (line) => {
      const found = changer.value(line);
      if (!found || !canBeWritten(line)) return null;
      return found.own === null ? null : [...found.before, ...found.own];
    });
  },
  apply(edit, { file }) {
    const changer = changerOf(edit, file);
    if (!changer.ok) return changer;
    const { lineEnd } = file.report;
    const splices = new LineSplices(lineEnd, this.label, { goesAlong: true });
    let beyond: number | null = null;
    file.walk(
      (line) => {
        const found = changer.value(line);
        if (!found) return;
        if (found.own === null) beyond ??= line.number + 1;
        else {
          if (canBeWritten(line)) splices.before(line, found.before, found.layer);
          splices.replace(line, found.own, found.layer);
        }
      },
      { moves: canBeMove(edit.find) },
    );
    if (beyond !== null) {
      return refuse(`In line ${beyond} this makes a value no printer can mean. Scale or shift it by less.`, "act");
    }
    return splices.outcome([], {
      nothing: {
        check: "nothing-found",
        severity: "note",
        where: "whole file",
        message: "Nothing in the file is found like that.",
      },
    });
  },
};

/** What becomes of a line. */
interface FoundLine {
  layer: number;
  before: readonly string[];
  /** Stands in its place; null where that would be a value no printer can mean. */
  own: readonly string[] | null;
}

/** Says of each line, asked from the first to the last, what becomes of it; null where it stays. */
function changerOf(
  { find: wanted, scope, act, skip }: FindEdit,
  file: SeenFile,
): Result<(line: Line) => FoundLine | null> {
  const matches = matcherOf(wanted, scope.in);
  if (typeof matches === "string") return refuse(matches, "find.regexp");
  const { part, tool } = scope;
  const isLimited = isWithin(scope);
  const layers = layersOf(scope, file);
  if (isLimited && !layers.ok) return { ...layers, field: `scope.${layers.field}` };
  const left = new Set(skip);
  const place = new PlaceFinder(file);
  let nowTool = 0;
  return succeed((line) => {
    if (line.letters[0] === 84 && line.commandCount > 0 && line.wordCount === 1) nowTool = line.values[0];
    place.at(line.number);
    if (part !== undefined && place.part !== part) return null;
    if (isLimited && layers.ok && (!layers.value.holds(place.layer) || place.part === "end")) return null;
    if (tool !== undefined && tool !== nowTool) return null;
    if (left.has(line.number + 1)) return null;
    const found = matches(line);
    if (found === null) return null;
    return { layer: place.layer, before: act.before ?? [], own: changed(found, act) };
  });
}

const isWithin = (scope: Scope): boolean =>
  [scope.fromLayer, scope.toLayer, scope.fromMm, scope.toMm].some((bound) => bound !== undefined);

/** What of the trace a change of one word of a command is seen in. */
const seenByWord: { commands: RegExp; word: RegExp; fields: readonly Field[] }[] = [
  { commands: /^G0*[0-3]$/, word: /^F$/, fields: ["feed", "travelFeed", "drawnFeed"] },
  { commands: /^G0*[01]$/, word: /^E$/, fields: ["filament", "drawn", "balance", "drawnFeed", "travelFeed"] },
  { commands: /^M(104|109|140|190)$/, word: /^[SR]$/, fields: ["heat", "bed", "waits"] },
  { commands: /^M10[67]$/, word: /^S$/, fields: ["fan"] },
];

/** The fields in which what is made of the lines can be seen; null where that cannot be said beforehand. */
function seenIn({ find: { command, text }, scope, act }: FindEdit): number | null {
  if (Object.keys(act).length !== 1) return null;
  if (scope.in === "comments" && text !== undefined && act.replaceWith !== undefined) return bitOf.layer;
  const { word } = act.setWord ?? act.scaleWord ?? act.shiftWord ?? { word: "" };
  if (command === undefined) return null;
  const seen = seenByWord.find(({ commands, word: letter }) => commands.test(command) && letter.test(word));
  return seen ? bitsOf(...seen.fields) : null;
}

/** Whether a plain straight move can be found: nearly all lines are such, and need not be cut into words where none of them can. */
function canBeMove({ text, command }: Found): boolean {
  if (command !== undefined) return /^G0*[01]$/.test(command);
  return text === undefined || /^[GXYZEF\d.\s+-]*$/i.test(text);
}

interface Hit {
  line: Line;
  /** The words it is about: those behind the command itself. */
  from: number;
  to: number;
  /** What was found, where that is not the whole line, and the line with something else in its place. */
  part: string | null;
  replace: ((by: string) => string) | null;
}

/** Finds a line by what is wanted; the sentence that is wrong with an expression. */
function matcherOf(
  { text, regexp, command, where = [] }: Found,
  within: FindScope["in"],
): ((line: Line) => Hit | null) | string {
  /** The part that is looked in, and where it stands in the line. */
  const split = (line: Line) => {
    const whole = decodeLine(line);
    const code = line.commentFrom < 0 ? whole.length : line.code().length;
    if (within === "commands") return { whole, looked: whole.slice(0, code), from: 0 };
    if (within === "comments") return { whole, looked: whole.slice(code), from: code };
    return { whole, looked: whole, from: 0 };
  };
  if (command !== undefined) {
    const letter = command.charCodeAt(0);
    const value = Number(command.slice(1));
    return (line) => {
      if (line.commandCount === 0) return null;
      if (line.commandCount === 1 && (line.letters[0] !== letter || line.values[0] !== value)) return null;
      let found: Hit | null = null;
      forEachCommand(line, (from, to) => {
        if (found || line.letters[from] !== letter || line.values[from] !== value) return;
        if (where.every((one) => holds(line, one, from + 1, to))) found = commandOf(line, from, to);
      });
      return found;
    };
  }
  if (text !== undefined) {
    return (line) => {
      const { whole, looked, from } = split(line);
      if (!looked.includes(text)) return null;
      const replace = (by: string) =>
        whole.slice(0, from) + looked.replaceAll(text, () => by) + whole.slice(from + looked.length);
      return { ...wholeLine(line), replace };
    };
  }
  let expression: RegExp;
  try {
    expression = new RegExp(regexp!, "gu");
  } catch (error) {
    return `This is no expression: ${error instanceof Error ? error.message.replace(/^Invalid regular expression: /, "") : ""}.`;
  }
  return (line) => {
    const { whole, looked, from } = split(line);
    expression.lastIndex = 0;
    if (!expression.test(looked)) return null;
    const replace = (by: string) =>
      whole.slice(0, from) + looked.replace(expression, by) + whole.slice(from + looked.length);
    return { ...wholeLine(line), replace };
  };
}

/** A line as a whole; its first word is the command itself, where it has one. */
function wholeLine(line: Line): Hit {
  return { line, from: line.commandCount > 0 ? 1 : 0, to: line.wordCount, part: null, replace: null };
}

/** A command, its words from one (included) to another (excluded): all of its line, or one of several there. */
function commandOf(line: Line, from: number, to: number): Hit {
  if (line.commandCount === 1) return wholeLine(line);
  const start = line.starts[from];
  const end = to < line.wordCount ? line.starts[to] : line.wordsEnd();
  const said = (first: number, last: number) => decoder.decode(line.bytes.subarray(first, last));
  const beside = [said(line.from, start).trimEnd(), said(end, line.to).trimStart()];
  const replace = (by: string) => [beside[0], by, beside[1]].filter((text) => text !== "").join(" ");
  return { line, from: from + 1, to, part: said(start, end).trimEnd(), replace };
}

const decoder = new TextDecoder();

function holds(line: Line, { word: letter, is, value = 0 }: Condition, from: number, to: number): boolean {
  const byte = letter.charCodeAt(0);
  let word = from;
  while (word < to && line.letters[word] !== byte) word++;
  if (is === "any") return word < to;
  const figure = word < to ? line.values[word] : NaN;
  if (Number.isNaN(figure)) return false;
  if (is === ">") return figure > value;
  return is === "<" ? figure < value : Math.abs(figure - value) < 1e-9;
}

/** The lines that stand for one that was found; null where that makes a value no printer can mean. */
function changed(hit: Hit, act: Act): string[] | null {
  const { part, replace } = hit;
  // Of several commands on a line one goes, and the others stay.
  const rest = part !== null && replace ? [replace("")] : [];
  if (act.delete) return [...rest, ...(act.after ?? [])];
  if (act.comment !== undefined) {
    const left = asComment(part ?? decodeLine(hit.line), act.comment.trim() || "left out");
    return [...rest, left, ...(act.after ?? [])];
  }
  const made = changedText(hit, act);
  return made === null ? null : [made, ...(act.after ?? [])];
}

function changedText(hit: Hit, { replaceWith, setWord, scaleWord, shiftWord }: Act): string | null {
  if (replaceWith !== undefined) return hit.replace ? hit.replace(replaceWith) : replaceWith;
  if (setWord) return withFigure(hit, setWord.word, () => setWord.value, true);
  if (scaleWord) return withFigure(hit, scaleWord.word, (value) => value * scaleWord.by, false);
  if (shiftWord) return withFigure(hit, shiftWord.word, (value) => value + shiftWord.by, false);
  return decodeLine(hit.line);
}

const edited = new EditedLine();

/** The line with another figure in one of its words, everything else letter by letter; null where no printer can mean the figure. */
function withFigure(
  { line, from, to: until }: Hit,
  letter: string,
  to: (value: number) => number,
  isSet: boolean,
): string | null {
  const byte = letter.charCodeAt(0);
  const word = edited.take(line).wordOf(byte, from, until);
  if (word >= 0) {
    const figure = to(edited.figureOf(word));
    if (!(Math.abs(figure) <= MOST_VALUE)) return null;
    edited.setWritten(word, sayFigure(letter, figure, isSet ? String(to(0)) : edited.writtenFigure(word)));
  } else if (isSet) edited.add(byte, plainNumber(to(0), DECIMALS), until - 1);
  return edited.text();
}
