/** One thing that can vary with height. */
import { EventKind } from "../gcode/moves";
import { Result } from "../result";
import { Printer } from "../shelf/printer";
import { MoveFacts } from "./move-facts";

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
  /** Every tool has a value of its own; otherwise there is one for the whole printer. */
  perTool?: boolean;
  /**
   * The lines that set it on this printer, or why it cannot be set there. Never a line that waits. No lines at all where it
   * lives inside the moves (see `insideMoves`).
   */
  say(value: number, printer: Printer, tool: number): Result<string[]>;
  /** Whether this printer is told by the moves themselves: their feed, or how far they draw the filament back. */
  insideMoves?(printer: Printer): boolean;
  /** The value this printer ends up with when told `value`: a fan duty is a whole number and must turn the fan. */
  effective(value: number, printer: Printer): number;
  /** What an event of a program says about this setting, in its own unit; null if nothing. */
  hear(kind: EventKind, value: number): number | null;
  /** What the moves of a layer say about it; NaN if nothing. Left out where moves say nothing about it. */
  measure?(facts: MoveFacts): number;
  /** Values closer than this count as the same when read back. */
  tolerance: number;
}
