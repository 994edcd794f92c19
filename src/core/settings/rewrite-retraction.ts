/** What the two settings of retraction say of a file's own lines. */
import { FilamentCycles, filamentCycles } from "../gcode/filament-cycles";
import { MovingLine } from "../gcode/moving-lines";
import { dialects } from "../machine/dialects";
import { refuse, Result, succeed } from "../result";
import type { Printer } from "../shelf/printer";
import type { Rewritten } from "./setting";

export interface Left {
  what: string;
  line: MovingLine;
}

/** The line that gives a firmware which draws back by itself a new length or speed; none for a printer told by its moves. */
export function firmwareLine(printer: Printer, figures: { lengthMm?: number; speedMmS?: number }): Result<string[]> {
  if (!printer.firmwareRetraction) return succeed([]);
  const line = dialects[printer.dialect].firmwareRetractionLine(figures);
  return line.ok ? succeed([line.value]) : line;
}

/** Drawing back and giving back of one tool, paired; refused with the reason for a file that has no pair. */
export function cyclesIn(lines: readonly MovingLine[], tool: number): Result<FilamentCycles> {
  const found = filamentCycles(lines, tool);
  if (found.cycles.length > 0) return succeed(found);
  const moving = found.left.some(({ because }) => because === "only while moving");
  const why = moving ? "draws the filament back only while it moves" : "never draws the filament back";
  return refuse(`This file ${why}, so there is no retraction to change.`);
}

/** What the plan wants where a line stands; NaN where it says nothing. */
export const valueAt = (line: MovingLine, wanted: Float64Array) => (line.layer >= 0 ? wanted[line.layer] : NaN);

/** The lines that are left alone where the plan says something, by what they are. */
export function countLeft(all: readonly Left[], wanted: Float64Array): Rewritten["left"] {
  const counted = new Map<string, { what: string; count: number; firstLine: number }>();
  for (const { what, line } of all) {
    if (line.layer < 0 || Number.isNaN(wanted[line.layer])) continue;
    const known = counted.get(what);
    if (known) known.count++;
    else counted.set(what, { what, count: 1, firstLine: line.line });
  }
  return [...counted.values()];
}
