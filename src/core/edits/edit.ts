/** One change to an opened file. Edits stack, each sees the file as those before it left it, and the original is never touched. */
import { z } from "zod";
import { Finding } from "../findings/finding";
import { MovingLine } from "../gcode/moving-lines";
import type { LineObserver, ProgramTables } from "../gcode/read";
import type { Line } from "../gcode/scan";
import type { MachineState } from "../machine/state";
import { PlannedValues } from "../heightplan/planned";
import { SettingChange } from "../heightplan/proof";
import { ProgramReport } from "../report/report";
import { Result } from "../result";
import { SettingKey, settingFor } from "../settings";
import { Printer } from "../shelf/printer";
import type { Asked } from "../trace/compare";
import { SpliceSet } from "./splices/packed";

/** A file as an edit finds it. */
export interface SeenFile {
  /** With every change of settings, however many. */
  report: ProgramReport;
  /** Its lines inside moves, with their layers; read when they are asked for. Refused with a sentence where there are too many. */
  movingLines(keeps: "filament" | "travel"): Result<MovingLine[]>;
  /** Visits its lines, first to last; the line is reused from visit to visit. `moves`: plain moves, too. */
  walk(visit: (line: Line) => void, which: { moves: boolean }): void;
  /** The last line (from 0) that lays material. */
  lastLayingLine(): number;
  /** Its moves, events and layers, read when they are asked for. */
  tables(): ProgramTables;
  /** Reads it once more with somebody listening. */
  follow(observer: LineObserver): void;
  /** What the machine holds in front of a byte. */
  stateBefore(byte: number): MachineState;
}

/** What an edit may look at. */
export interface EditContext {
  file: SeenFile;
  printer: Printer;
  /** The file's name, for edits that write it. */
  name?: string;
}

export interface EditOutcome {
  splices: SpliceSet;
  findings: Finding[];
  /** What the edit wants layer by layer, for the proof, tool by tool. */
  planned?: PlannedForTool[];
}

export interface PlannedForTool {
  tool: number;
  planned: PlannedValues;
}

export interface EditKind<T extends { kind: string } = { kind: string }> {
  /** What it is called where two edits get in each other's way. */
  label: string;
  schema: z.ZodType<T>;
  /**
   * What it makes of the trace of a file, said for the proof from what was asked alone: what it leaves alone must be as it was, at every bead.
   * Called only for edits that can be applied.
   */
  asks(edit: T, context: EditContext): Asked;
  /** Its places do not depend on one another: single ones can be left alone (`skip`, lines from 1). */
  placesAlone?: true;
  /** It leaves the lines in `skip` alone by itself. */
  skipsItself?: true;
  /** It tells heats: those of the file that has been edited are its own, and nobody else's changes. */
  tellsHeats?: true;
  /** It writes filament figures of its own: left out where a file counts by volume. */
  writesFilament?: true;
  /** The print stands still for it once: what is waited for there is waited for on purpose. */
  stops?: true;
  /** Where it acts is a stretch of layers or heights, in the edit itself or in a member of it. */
  scopeIn?: "edit" | "scope";
  /** Holds what no bead shows against what was asked, by reading both files; a sentence for everything that is not so. */
  proves?(edit: T, before: SeenFile, after: SeenFile, context: EditContext): string[];
  apply(edit: T, context: EditContext): Result<EditOutcome>;
}

/**
 * Whether changes of a setting concern a tool. Settings that every tool has for itself are told apart where the file itself tells them
 * apart; where it speaks of one only, that one is every tool's.
 */
export function concerning(report: ProgramReport, key: SettingKey, tool: number): (change: SettingChange) => boolean {
  const apart = toldByTool(report, key);
  return (change) => change.key === key && (!apart || change.tool === tool);
}

/** Whether the file gives different tools values of their own of a setting. */
function toldByTool({ start, changes }: ProgramReport, key: SettingKey): boolean {
  if (!settingFor(key).perTool) return false;
  const tools = new Set(start.filter(({ settings }) => settings[key] !== undefined).map(({ tool }) => tool));
  for (const change of changes) if (change.key === key) tools.add(change.tool);
  return tools.size > 1;
}

/** The value the file has in force for a tool when a layer opens; null if it never says. */
export function valueAt(
  { file: { report } }: EditContext,
  key: SettingKey,
  layer: number,
  tool: number,
): number | null {
  const { start, settings } = report;
  const concerns = concerning(report, key, tool);
  let value =
    (toldByTool(report, key) ? start.find((one) => one.tool === tool)?.settings[key] : settings[key]?.[0]) ?? null;
  for (const change of report.changes) {
    if (change.layer > layer || (change.layer === layer && change.within)) break;
    if (concerns(change)) value = change.value;
  }
  return value;
}

/** The printer as this file uses it: whether the firmware draws back is the file's own business. */
export function printerOfFile({ printer, file }: EditContext): Printer {
  const { retraction } = file.report;
  return retraction === "none" ? printer : { ...printer, firmwareRetraction: retraction === "firmware" };
}
