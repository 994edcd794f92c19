/** A measured tune: something the printer does, something a person measures, and the sum that follows. */
import type { RulerReadings } from "../simulator/ruler";
import type { SettingValues } from "../settings";
import { Refusal, Result } from "../result";
import { Printer } from "../shelf/printer";
import { Spool } from "../shelf/spool";

export interface TuneInput {
  key: string;
  label: string;
  unit: string;
  low: number;
  high: number;
  step: number;
  decimals: number;
  usual(request: Omit<TuneRequest, "inputs">): number;
  /** Named figures to choose from, instead of a field. */
  choices?: { value: number; label: string }[];
}

export interface TuneReading {
  key: string;
  label: string;
  unit: string;
  low: number;
  high: number;
  decimals: number;
}

export interface TuneRequest {
  printer: Printer;
  spool: Spool | null;
  inputs: Record<string, number>;
  /** Firmware values as they are now, by id. */
  values: Record<string, number>;
  /** Values kept for printer and spool. */
  kept: SettingValues;
}

export interface TuneOutcome {
  /** The sum, line by line, as it is shown. */
  sum: string[];
  /** What was found out, for comparing runs, in `unit`. */
  measured: number;
  unit: string;
  /** Near enough: nothing needs to be changed. */
  within: boolean;
  /** What it comes to, in a sentence. */
  verdict: string;
  /** A figure that looks mistyped: a question to answer first. */
  ask?: string;
  /** New firmware values, by id. */
  firmware: Record<string, number>;
  /** New values for the pair of printer and spool. */
  settings?: SettingValues;
  /** New figures for the printer on the shelf. */
  printer?: Partial<Printer>;
}

/**
 * What is measured, for its drawing: a mark on the `filament`, several `feeds`, the `way` of an axis, a `wall`, the `cross` on a bed, the
 * `swing` of a heater, the `parts` themselves, the `pull` of the firmware.
 */
export type TuneDrawing = "filament" | "feeds" | "way" | "wall" | "cross" | "swing" | "parts" | "pull";

export interface Tune {
  title: string;
  draws: TuneDrawing;
  question: string;
  /** What must be at hand. */
  needs: string[];
  inputs: TuneInput[];
  /** Every tool is tuned by itself; which one is asked on printers that have several. */
  perTool?: boolean;
  /** Firmware values the sum starts from, by id. */
  uses(request: Pick<TuneRequest, "printer" | "inputs">): string[];
  /** Why this printer cannot be tuned like this, or null. */
  refuses?(printer: Printer): string | null;
  /** Why these inputs do not fit this printer, with the field, or null. */
  unfit?(request: TuneRequest): Refusal | null;
  /** Temperatures to reach first; null for a tune without heat. */
  heat(request: TuneRequest): { nozzleC?: number; bedC?: number } | null;
  /** What to do by hand before it acts. */
  before: string;
  /** Lines that make the printer act; empty where there is nothing to do but measure. */
  act(request: TuneRequest): string[];
  /** What to measure then, in words. */
  after: string;
  readings(request: TuneRequest): TuneReading[];
  /** The sum; refused with field and reason if a reading cannot be. */
  sum(request: TuneRequest, readings: Record<string, number>): Result<TuneOutcome>;
  /**
   * Runs may differ by so much (in the outcome's unit) before mechanics are the thing to look at; Infinity where nothing is
   * measured by hand, so that one run is enough.
   */
  agreeWithin: number;
  /** What ruler and calliper would show at a simulated printer. */
  fromRuler?(ruler: RulerReadings, request: TuneRequest): Record<string, number>;
  /** What the printer itself answered. */
  fromAnswers?(lines: string[]): Record<string, number> | null;
  /** Lines for people without a cable stand in a file of their own; false where a file makes no sense. */
  asFile: boolean;
}

/** The tool a request is about, from 0. */
export function toolOf({ inputs }: Pick<TuneRequest, "inputs">): number {
  return inputs.tool ?? 0;
}

/** A new figure more than this share away from the old one looks mistyped. Common practice, no source. */
export const MISTYPED_SHARE = 0.25;

/** The question for a figure that looks mistyped, or undefined. */
export function mistyped(label: string, old: number, next: number): string | undefined {
  const share = Math.abs(next - old) / Math.max(1e-9, Math.abs(old));
  if (share <= MISTYPED_SHARE) return undefined;
  return `${label} would change by ${Math.round(share * 100)} %. Did you type the reading correctly?`;
}
