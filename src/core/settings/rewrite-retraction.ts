/** What the two settings of retraction say of a file's own lines. */
import { FilamentCycles } from "../gcode/filament-cycles";
import { MovingLine } from "../gcode/moving-lines";
import type { Rewritten } from "./setting";

export interface Left {
  what: string;
  line: MovingLine;
}

/** Why a file has no retraction to change, or null. */
export function noCycles({ cycles, left }: FilamentCycles): string | null {
  if (cycles.length > 0) return null;
  const moving = left.some(({ because }) => because === "only while moving");
  const why = moving ? "draws the filament back only while it moves" : "never draws the filament back";
  return `This file ${why}, so there is no retraction to change.`;
}

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
