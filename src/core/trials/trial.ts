/** A trial as it is stored and sent, and what a program is built from. */
import type { Ceiling } from "../checks/check";
import type { SettingValues } from "../settings";
import type { Printer } from "../shelf/printer";
import type { Spool } from "../shelf/spool";
import type { ExpectedRanges } from "./expected";
import type { NewTrial, Trial } from "./trial-schema";

export type { NewTrial, Trial };

/** A trial with the printer and spool it is put to: all that its program follows from. */
export interface TrialInput {
  trial: Trial;
  printer: Printer;
  spool: Spool;
  /** What is kept for the pair: only said of the first round, nothing is built from it. */
  kept?: SettingValues;
  /** What earlier spools lead one to expect: as above. */
  expected?: ExpectedRanges;
  /** What the firmware lets the axes have, by the last reading of its values. */
  ceiling?: Ceiling | null;
}
