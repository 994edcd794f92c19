/** One thing that can vary with height. */
import { EventKind } from "../gcode/moves";
import { Result } from "../result";
import { Printer } from "../shelf/printer";

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
  /** The lines that set it on this printer, or why it cannot be set there. Never a line that waits. */
  say(value: number, printer: Printer, tool: number): Result<string[]>;
  /** The value this printer ends up with when told `value`: a fan duty is a whole number and must turn the fan. */
  effective(value: number, printer: Printer): number;
  /** What an event of a program says about this setting, in its own unit; null if nothing. */
  hear(kind: EventKind, value: number): number | null;
  /** Values closer than this count as the same when read back. */
  tolerance: number;
}
