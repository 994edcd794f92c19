/** A reading of all values: lines as the printer wrote them, and what they say. */
import { readTalkLine } from "../commands/line";
import { readAnswer } from "../reports/answer";
import { roundTo } from "../../units";
import { firmwareValues } from "./index";
import { FirmwareValue, valueId } from "./value";

export interface ValueEntry {
  /** See `valueId`. */
  id: string;
  tool: number;
  value: number;
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
    if (line.code === "" || !/^([GM]\d|[A-Z]+_)/.test(line.code)) continue;
    let known = false;
    for (const definition of firmwareValues) {
      if (definition.command !== line.code) continue;
      const word = line.words.find(({ name, value }) => name === definition.word && Number.isFinite(value));
      if (!word) continue;
      // `E0` names the heater in M301, but feeds filament elsewhere.
      const named = definition.toolWord ? line.words.find(({ name }) => name === definition.toolWord) : undefined;
      const tool = named && Number.isInteger(named.value) && named.value >= 0 ? named.value : 0;
      const id = valueId(definition.key, tool);
      entries.set(id, {
        id,
        tool,
        value: roundTo(word.value / lineFactorOf(definition, feedsPerMinute), 6),
        line: raw,
      });
      known = true;
    }
    if (!known && line.words.length > 0) otherLines.push(raw);
  }
  return { entries: [...entries.values()], otherLines };
}
