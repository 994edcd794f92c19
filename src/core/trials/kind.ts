/** One question that can be put to a printer and a spool. */
import { HeightPlan } from "../heightplan/plan";
import { SettingKey, SettingValues } from "../settings";
import { Printer } from "../shelf/printer";
import { Spool } from "../shelf/spool";
import { Specimen } from "../specimens/specimen";

export interface TrialKind {
  /** `Nozzle temperature` */
  label: string;
  /** The question, as a heading: `How hot does Saffron want to be?` */
  question(spool: Spool): string;
  /** What it finds out and what to look for, in two sentences. */
  explains: string;
  /** The setting the bands vary. */
  setting: SettingKey;
  specimen: Specimen;
  /** The first round for this printer and spool. */
  firstRound(printer: Printer, spool: Spool): { plan: HeightPlan; fixed: SettingValues };
  /** The range that the value is looked for in, for the scale on the bench. */
  range(printer: Printer, spool: Spool): { low: number; high: number };
}
