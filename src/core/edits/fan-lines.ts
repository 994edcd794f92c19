/** Lines that tell a fan: what they tell, and how another value is told in their place. */
import { LineWords } from "../gcode/line-words";
import type { Line } from "../gcode/scan";
import { hasCommand } from "../machine/command";
import { commandForNumber } from "../machine/commands";
import { EventKind } from "../machine/event-kind";
import type { Reading } from "../machine/reading";
import { freshState } from "../machine/state";
import type { Result } from "../result";
import { settingFor } from "../settings";
import type { Printer } from "../shelf/printer";
import { clamp, plainNumber } from "../units";

const M = 77;
const MOST_DUTY = 255;
/** Obeyed in place of a machine: only the tool that is in matters. */
const scratch = freshState();

/**
 * The fan (from 0) and its percentage that a line tells a printer; null if it tells none. What its commands mean says the command table.
 *
 * @param tool the one that is in
 */
export function fanTold(
  line: Line,
  reading: Reading,
  tool: number,
): { index: number; percent: number; isNamed: boolean } | null {
  if (line.commandCount === 0 || line.letters[0] !== M) return null;
  const command = commandForNumber(M, line.values[0]);
  if (!command?.act || !hasCommand(command, reading)) return null;
  const words = new LineWords(line).set(line, 1, line.wordCount);
  const told = { index: -1, duty: 0 };
  scratch.tool = tool;
  command.act(
    scratch,
    words,
    (kind, value, index) => {
      if (kind === EventKind.fan) Object.assign(told, { index, duty: value });
    },
    reading,
  );
  if (told.index < 0) return null;
  const isNamed = Object.keys(command.words ?? {}).some((name) => name !== "S" && words.has(name));
  return { index: told.index, percent: (clamp(told.duty, 0, MOST_DUTY) * 100) / MOST_DUTY, isNamed };
}

/** The lines that tell a fan a percentage in the printer's own words; by its number where the file names it. */
export function sayFan(
  percent: number,
  printer: Printer,
  { index, isNamed }: { index: number; isNamed: boolean },
): Result<string[]> {
  const asNamed = { ...printer, fanPerTool: isNamed, tools: isNamed ? Math.max(2, printer.tools) : printer.tools };
  return settingFor("fan").say(percent, asNamed, index);
}

/**
 * The same for a duty (0–255) that a state holds, as it was: also one that hardly turns a fan. None where the printer cannot be told so.
 */
export function sayFanDuty(duty: number, printer: Printer, which: { index: number; isNamed: boolean }): string[] {
  const said = sayFan((duty * 100) / MOST_DUTY, printer, which);
  if (!said.ok) return [];
  return said.value.map((line) => line.replace(/^(M106\b.*\bS)[\d.]+/, `$1${plainNumber(duty, 2)}`));
}
