/** Lines that tell a fan: what they tell, and how another value is told in their place. */
import type { Line } from "../gcode/scan";
import type { Result } from "../result";
import { settingFor } from "../settings";
import type { Printer } from "../shelf/printer";
import { clamp } from "../units";

const [M, P, S, T] = [77, 80, 83, 84];
const MOST_DUTY = 255;

/**
 * The fan (from 0) and its percentage that a line tells; null if it tells none. A duty left out is all of it (common practice, no source).
 *
 * @param unnamed the fan that is meant where none is named: that of the tool that is in where every tool has its own, else the first
 */
export function fanTold(line: Line, unnamed = 0): { index: number; percent: number; isNamed: boolean } | null {
  if (line.commandCount === 0 || line.letters[0] !== M) return null;
  const dutyOf = new Map([
    [106, Number.isNaN(line.value(S)) ? MOST_DUTY : line.value(S)],
    [107, 0],
    [126, MOST_DUTY],
    [127, 0],
  ]);
  const duty = dutyOf.get(line.values[0]);
  if (duty === undefined) return null;
  const isValve = line.values[0] === 126 || line.values[0] === 127;
  const index = line.value(isValve ? T : P);
  const isNamed = !Number.isNaN(index);
  return { index: isNamed ? index : unnamed, percent: (clamp(duty, 0, MOST_DUTY) * 100) / MOST_DUTY, isNamed };
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

/** The same for a duty (0–255) that a state holds; none where the printer cannot be told so. */
export function sayFanDuty(duty: number, printer: Printer, which: { index: number; isNamed: boolean }): string[] {
  const said = sayFan((duty * 100) / MOST_DUTY, printer, which);
  return said.ok ? said.value : [];
}
