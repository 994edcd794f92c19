/** Something a check noticed: how bad, where, why, and how to mend it. */
import { ProgramTables } from "../gcode/read";
import { ResolvedBand } from "../heightplan/plan";
import { PlannedValues } from "../heightplan/planned";
import { LayerSettings, SettingChange } from "../heightplan/proof";
import { HeatProfile, ProgramReport } from "../report/report";
import { Refusal } from "../result";
import { SettingKey } from "../settings";
import { Printer } from "../shelf/printer";
import { Spool } from "../shelf/spool";
import { SpecimenShape } from "../specimens/specimen";
import { TrialParts } from "../trials/kind";
import { Trial } from "../trials/trial";

/** `stop`: the file is not handed out. `warn`: look at it. `note`: good to know. */
export type Severity = "stop" | "warn" | "note";

/** What pressing the mend's button does. */
export interface Mend {
  label: string;
  /** Replaces these parts of the trial. */
  trial?: Partial<TrialParts>;
  /** Adds this edit to an opened file. */
  edit?: { kind: "lift-out"; what: "cuchara" | "foreign"; settings?: SettingKey[] };
  /** Opens the place where it can be put right. */
  open?: "printer" | "spool";
}

export interface Finding {
  /** Key of the check. */
  check: string;
  severity: Severity;
  /** `band 3`, `layer 187 at 37.4 mm`, `line 1204`. */
  where: string;
  message: string;
  mend?: Mend;
  /** Other ways to mend it. */
  others?: Mend[];
}

/** All a check may look at. The program's side is read back from its finished text. */
export interface CheckContext {
  printer: Printer;
  spool: Spool | null;
  /** The trial, where the program was built by one. */
  trial: Trial | null;
  bands: ResolvedBand[];
  /** What the plan wants, layer by layer. */
  planned: PlannedValues;
  tables: ProgramTables;
  report: ProgramReport;
  byLayer: LayerSettings;
  changes: SettingChange[];
  heat: HeatProfile;
  /** Share (0–1) of each band in which the nozzle is settled; see `report/settling.ts`. */
  bandSettled: number[];
  lead: { layers: number; share: number } | null;
  refusals: (Refusal & { key?: SettingKey; band?: number })[];
  /** The piece, where the program was built by a trial. */
  shape: SpecimenShape | null;
}

export interface Check {
  key: string;
  /** What can be said when there is nothing to find; null if that is not worth a line. */
  passes: string | null | ((context: CheckContext) => string | null);
  run(context: CheckContext): Finding[];
}
