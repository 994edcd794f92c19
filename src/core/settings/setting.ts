/** One thing that can vary with height. */
import { EventKind } from "../gcode/moves";
import { LineChange, MovingLine } from "../gcode/moving-lines";
import { Process } from "../printing/process";
import { Result } from "../result";
import { Printer } from "../shelf/printer";
import { Spool } from "../shelf/spool";
import type { Field } from "../trace/fields";
import { Measure } from "./measure";

export interface Setting {
  /** `Nozzle temperature` */
  label: string;
  /** The word used in comments and narrow columns: `nozzle`. */
  short: string;
  unit: string;
  /** What any printer can be told. */
  lowest: number;
  highest: number;
  /** A step worth trying. */
  step: number;
  decimals: number;
  /** Printers are told whole figures of it: what lies between is refused where it is typed, for it would be rounded in silence. */
  whole?: boolean;
  /** Every tool has a value of its own; otherwise there is one for the whole printer. */
  perTool?: boolean;
  /** The firmware keeps it when a print is over: a print that changes it says its value at the start, and sets it back at the end. */
  outlives?: boolean;
  /** The firmware stores it: files leave what is stored alone, say only what is another, and set it back at their end. */
  stored?: boolean;
  /** What holds where nobody has said anything: by the printer's page and the spool's label, else by common practice. */
  usual(printer: Printer, spool: Spool | null): number;
  /**
   * The lines that set it on this printer, or why it cannot be set there. Never a line that waits. No lines at all where it
   * lives inside the moves (see `inside`).
   */
  say(value: number, printer: Printer, tool: number): Result<string[]>;
  /** How it lives inside the moves, for settings that can. */
  inside?: InsideMoves;
  /** The value this printer ends up with when told `value`: a fan duty is a whole number and must turn the fan. */
  effective(value: number, printer: Printer): number;
  /** What an event of a program says about this setting, in its own unit; null if nothing. */
  hear(kind: EventKind, value: number): number | null;
  /** What the moves of a layer say about it. Left out where moves say nothing about it. */
  measure?(): Measure;
  /** Values closer than this count as the same when read back. */
  tolerance: number;
}

/** A setting that printers are told by the moves themselves: their feed, or how far they draw the filament back. */
export interface InsideMoves {
  /** Whether this printer is told so. */
  on(printer: Printer): boolean;
  /** How a layer is laid with the value. */
  process(process: Process, value: number): Process;
  /** What of the trace of a program it is seen in. */
  seenIn: readonly Field[];
  /** How the lines of a file that was sliced elsewhere are rewritten for it; a sentence where they cannot be. */
  rewrite: Rewrite | string;
}

export interface Rewrite {
  /** Which lines of the file it looks at. */
  keeps: "filament" | "travel";
  /**
   * New figures for the lines of one tool.
   *
   * @param wanted per layer; NaN where the plan says nothing
   */
  changes(lines: readonly MovingLine[], wanted: Float64Array, tool: number): Result<Rewritten>;
}

export interface Rewritten {
  changes: LineChange[];
  /** Lines left as they are: what they are, how many, and the first of them (from 0). */
  left: { what: string; count: number; firstLine: number }[];
}
