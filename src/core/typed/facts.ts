/** What checks must know of a program that is written by hand: found line by line while it is read. */
import type { LineWords } from "../gcode/line-words";
import { LineObserver, ProgramReader, ProgramTables } from "../gcode/read";
import type { Line } from "../gcode/scan";
import { readingOf } from "../machine/reading";
import type { MachineState } from "../machine/state";
import type { Printer } from "../shelf/printer";

/** A place in the text: the line, from 1, and a figure. */
export interface TypedPlace {
  line: number;
  value: number;
}

export interface TypedFacts {
  /** An axis moves before it was homed or its place named: the first, and which axes. */
  unhomed: { line: number; axes: string } | null;
  /** The nozzle goes below the bed. */
  belowBed: TypedPlace | null;
  /** Where positions, filament and units were last said otherwise than a printer usually begins with. */
  relativeSince: number | null;
  inchesSince: number | null;
}

const axes = ["X", "Y", "Z"] as const;
const [X, Y, Z] = axes.map((axis) => axis.charCodeAt(0));
const letters = { X, Y, Z };

class Watcher implements LineObserver {
  readonly facts: TypedFacts = { unhomed: null, belowBed: null, relativeSince: null, inchesSince: null };
  private readonly named = new Set<string>();

  move(line: Line, _kind: number, _fed: number, _feed: number, state: Readonly<MachineState>): void {
    const homed = { X: state.homedX, Y: state.homedY, Z: state.homedZ };
    const lost = axes.filter((axis) => line.has(letters[axis]) && !homed[axis] && !this.named.has(axis));
    if (lost.length > 0 && !this.facts.unhomed)
      this.facts.unhomed = { line: line.number + 1, axes: lost.join(" and ") };
    // Where Z was never homed nobody knows where the bed is.
    if (state.z < -1e-6 && state.homedZ) this.facts.belowBed ??= { line: line.number + 1, value: state.z };
  }

  command(line: Line, code: string, words: LineWords, state: Readonly<MachineState>): void {
    if (code === "G92") for (const axis of axes) if (words.has(axis)) this.named.add(axis);
    if (!state.relative) this.facts.relativeSince = null;
    else this.facts.relativeSince ??= line.number + 1;
    if (state.unitMm === 1) this.facts.inchesSince = null;
    else this.facts.inchesSince ??= line.number + 1;
  }
}

/** Reads a text as the printer would, with what only matters where it is written by hand. */
export function readTyped(text: string, printer: Printer): { tables: ProgramTables; facts: TypedFacts } {
  const watcher = new Watcher();
  const reader = new ProgramReader(text.length, { reading: readingOf(printer), asksProgram: false, observer: watcher });
  reader.push(new TextEncoder().encode(text));
  return { tables: reader.finish(), facts: watcher.facts };
}
