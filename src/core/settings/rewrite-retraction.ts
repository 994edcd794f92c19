/** What the two settings of retraction say of a file's own lines. */
import { FilamentCycle, FilamentCycles, filamentCycles } from "../gcode/filament-cycles";
import { LineChange, MovingLine } from "../gcode/moving-lines";
import { dialects } from "../machine/dialects";
import { refuse, Result, succeed } from "../result";
import type { Printer } from "../shelf/printer";
import type { Rewritten } from "./setting";

interface Left {
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
function cyclesIn(lines: readonly MovingLine[], tool: number): Result<FilamentCycles> {
  const found = filamentCycles(lines, tool);
  if (found.cycles.length > 0) return succeed(found);
  const moving = found.left.some(({ because }) => because === "only while moving");
  const why = moving ? "draws the filament back only while it moves" : "never draws the filament back";
  return refuse(`This file ${why}, so there is no retraction to change.`);
}

/**
 * What becomes of drawing back and giving back of one tool; refused with the reason for a file that has no pair.
 *
 * @param change the lines of a cycle as they are to be for a value; what it is where they cannot be changed
 */
export function changedCycles(
  lines: readonly MovingLine[],
  wanted: Float64Array,
  tool: number,
  change: (cycle: FilamentCycle, value: number) => LineChange[] | string,
): Result<Rewritten> {
  const found = cyclesIn(lines, tool);
  if (!found.ok) return found;
  const changes: LineChange[] = [];
  const left: Left[] = found.value.left.map(({ because, line }) => ({ what: because, line }));
  for (const cycle of found.value.cycles) {
    const { layer } = cycle.lines[0];
    const value = layer >= 0 ? wanted[layer] : NaN;
    if (Number.isNaN(value)) continue;
    const changed = change(cycle, value);
    if (typeof changed === "string") left.push({ what: changed, line: cycle.draw });
    else changes.push(...changed);
  }
  return succeed({ changes, left: countLeft(left, wanted) });
}

/** The lines that are left alone where the plan says something, by what they are. */
function countLeft(all: readonly Left[], wanted: Float64Array): Rewritten["left"] {
  const counted = new Map<string, { what: string; count: number; firstLine: number }>();
  for (const { what, line } of all) {
    if (line.layer < 0 || Number.isNaN(wanted[line.layer])) continue;
    const known = counted.get(what);
    if (known) known.count++;
    else counted.set(what, { what, count: 1, firstLine: line.line });
  }
  return [...counted.values()];
}
