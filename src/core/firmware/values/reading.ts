/** A reading of all values: lines as the printer wrote them, and what they say. */
import { readTalkLine } from "../../gcode/talk-line";
import { readAnswer } from "../reports/answer";
import { MOST_TOOLS } from "../../machine/state";
import { roundTo } from "../../units";
import { firmwareValues } from "./index";
import { FirmwareValue, valueId } from "./value";

export interface ValueEntry {
  /** See `valueId`. */
  id: string;
  tool: number;
  value: number;
  /** Decimals of the figure as it was reported: what was sent can be held against it no closer. */
  decimals: number;
  /** The line as it came. */
  line: string;
}

export interface ValueReading {
  entries: ValueEntry[];
  /** Lines that hold a command this table does not know. */
  otherLines: string[];
}

/** Commands that are told per minute by a printer that counts feeds in mm/min. */
const perMinuteWith = new Set(["M203"]);

/** Factor from the figure to what stands in the line. */
export function lineFactorOf(definition: FirmwareValue, feedsPerMinute: boolean): number {
  return definition.lineFactor ?? (feedsPerMinute && perMinuteWith.has(definition.command) ? 60 : 1);
}

/**
 * Reads the answer to a question for values: one command a line, with or without `echo:` or `//` in front, comments between.
 * What cannot be read is passed over; a value that stands twice counts as it stood last.
 */
export function readValues(lines: string[], feedsPerMinute = false): ValueReading {
  const entries = new Map<string, ValueEntry>();
  const otherLines: string[] = [];
  for (const raw of lines) {
    if (readAnswer(raw).kind !== "other") continue;
    const bare = raw.replace(/^\s*(echo:|\/\/)\s*/i, "");
    const line = readTalkLine(bare);
    const isCommand = line.code !== "" && /^([GM]\d|[A-Z]+_)/.test(line.code);
    const keep = (definition: FirmwareValue, tool: number, value: number, written: string) => {
      const id = valueId(definition.key, tool);
      const factor = lineFactorOf(definition, feedsPerMinute);
      entries.set(id, { id, tool, value: roundTo(value / factor, 6), decimals: decimalsOf(written), line: raw });
      known = true;
    };
    let known = false;
    for (const definition of isCommand ? firmwareValues : []) {
      if (definition.command !== line.code) continue;
      const word = line.words.find(({ name, value }) => name === definition.word && Number.isFinite(value));
      if (!word) continue;
      // `E0` names the heater in M301, but feeds filament elsewhere.
      const named = definition.toolWord ? line.words.find(({ name }) => name === definition.toolWord) : undefined;
      const tool =
        named && Number.isInteger(named.value) && named.value >= 0 && named.value < MOST_TOOLS ? named.value : 0;
      keep(definition, tool, word.value, word.text);
    }
    if (!known)
      for (const [name, written] of namedFigures(bare)) {
        const definition = firmwareValues.find(({ reportedAs }) => reportedAs === name);
        if (definition) keep(definition, 0, Number(written), written);
      }
    if (!known && isCommand && line.words.length > 0) otherLines.push(raw);
  }
  return { entries: [...entries.values()], otherLines };
}

/** `name: 0.04` and `NAME=0.8` in a line: how printers report values that are set by named commands. Common practice, no source. */
function namedFigures(line: string): [name: string, written: string][] {
  return [...line.slice(0, 400).matchAll(/\b([a-z_]{4,40})\s?[:=]\s?(-?\d+(?:\.\d+)?)/gi)].map(([, name, written]) => [
    name.toLowerCase(),
    written,
  ]);
}

function decimalsOf(written: string): number {
  return /\.(\d+)/.exec(written)?.[1].length ?? 0;
}
