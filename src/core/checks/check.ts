/** What a check is, and what it may look at. The program's side is read back from its finished text. */
import type { Finding, TrialParts } from "../findings/finding";
import type { ProgramTables } from "../gcode/tables";
import type { ResolvedBand } from "../heightplan/plan";
import type { PlannedValues } from "../heightplan/planned";
import type { LayerSettings } from "../heightplan/proof";
import type { PieceShape } from "../printing/piece";
import type { Slice } from "../printing/slices";
import type { HeatProfile, ProgramReport } from "../report/report";
import type { Refusal } from "../result";
import type { SettingKey } from "../settings";
import type { Printer } from "../shelf/printer";
import type { Spool } from "../shelf/spool";

/** A trial as checks see it. */
export interface CheckedTrial extends TrialParts {
  tool: number;
  layerHeightMm: number;
  firstLayerHeightMm: number;
  /** Only parts of a band are read on the piece. */
  readInParts: boolean;
  /** What bridges get for a fan where that is more than the rest, in words; null where it is not. */
  overAir: string | null;
  /** Where printer or bed made it smaller than usual, a sentence each. */
  notes: string[];
  /** Layers by which the nozzle is told its temperatures early now, and what must change for another number. */
  leadLayers: number;
  toldEarlier(layers: number): Partial<TrialParts>;
}

/** What can be known of any program. */
export interface ProgramContext {
  printer: Printer;
  report: ProgramReport;
  /** The trial that built the program; null for an opened file. */
  trial: CheckedTrial | null;
}

/** What is known of a trial's program. */
export interface CheckContext extends ProgramContext {
  spool: Spool;
  trial: CheckedTrial;
  bands: ResolvedBand[];
  /** What the plan wants, layer by layer. */
  planned: PlannedValues;
  tables: ProgramTables;
  byLayer: LayerSettings;
  heat: HeatProfile;
  /** Share (0–1) of each band in which the nozzle is settled; see `report/settling.ts`. */
  bandSettled: number[];
  lead: { layers: number; share: number } | null;
  refusals: (Refusal & { key?: SettingKey; band?: number })[];
  shape: PieceShape;
  slices: readonly Slice[];
  /** What the firmware lets the axes have, if its values were read. */
  ceiling: Ceiling | null;
}

/** The least of what X and Y may speed up by, and when it was read. */
export interface Ceiling {
  accelerationMmS2: number;
  /** ISO date. */
  readAt: string;
}

export interface Check<C = CheckContext> {
  key: string;
  /** What can be said when there is nothing to find; null if that is not worth a line. */
  passes: string | null | ((context: C) => string | null);
  run(context: C): Finding[];
}

/** A check of any program, trials and opened files alike. */
export type ProgramCheck = Check<ProgramContext>;
