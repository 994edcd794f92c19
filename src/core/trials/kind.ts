/** One question that can be put to a printer and a spool. */
import { HeightPlan, ResolvedBand } from "../heightplan/plan";
import { Followed } from "../heightplan/planned";
import { Process } from "../printing/process";
import type { TrialParts } from "../findings/finding";
import { SettingKey, SettingValues } from "../settings";
import { Printer } from "../shelf/printer";
import { Spool } from "../shelf/spool";
import type { SpecimenKey } from "../specimens";
import type { ReadingGuide } from "../reading/guide";
import { Option, OptionValues } from "../options/option";
import type { ExpectedRanges } from "./expected";
import type { Need } from "./need";

/** All a first round is made from. */
export interface RoundRequest {
  printer: Printer;
  spool: Spool;
  /** Values kept for this printer and spool. */
  kept: SettingValues;
  /** Those of them that were taken over from another pair: a start, which the first round asks narrowly around. */
  carried?: SettingValues;
  /** What earlier spools lead one to expect: the first round asks there, where that is narrow enough. */
  expected?: ExpectedRanges;
  /** What of the kept values is only held as earlier spools lead one to expect it. */
  assumed?: SettingValues;
  options: OptionValues;
  /** Values of one's own for a kind that asks for two settings. */
  asked?: { across: number[]; up: number[] };
  layerHeightMm: number;
  firstLayerHeightMm: number;
}

export interface Round {
  plan: HeightPlan;
  fixed: SettingValues;
  /** Where the printer made it smaller than usual: one sentence each. */
  notes: string[];
}

/** What a kind may look at when it spreads its plan over the layers. */
export interface LayersRequest {
  followed: Followed;
  bands: readonly ResolvedBand[];
  tops: ArrayLike<number>;
  fixed: SettingValues;
  options: OptionValues;
  layerHeightMm: number;
}

/** An act behind the print: its lines, and what they take. */
export interface AfterPrint {
  lines: string[];
  filamentMm: number;
  /** Without the time a person takes, s. */
  seconds: number;
}

export interface TrialKind {
  /** `Nozzle temperature` */
  label: string;
  /** The question, as a heading: `How hot does Saffron want to be?` */
  question(spool: Spool, options: OptionValues): string;
  /** What it answers, in one short line without a full stop. */
  answers: string;
  /** What it finds out and what to look for, in two sentences. */
  explains: string;
  /** What should be settled before it is worth asking. */
  needs: readonly Need[];
  /** What it asks for is chosen with it: it is no step of the road. */
  isChosen?: true;
  /** Why options cannot be had together; null if they can. */
  refuses?(options: OptionValues): { message: string; field: string } | null;
  /** The setting that is looked for on this printer. */
  setting(printer: Printer, options: OptionValues): SettingKey;
  options: readonly Option[];
  /** Its name; what it is made of is only loaded where a piece is made. */
  specimen(options: OptionValues): SpecimenKey;
  /** Its values stand on spots of its own piece besides their heights: no other piece answers it. */
  needsOwnPiece?: true;
  /** The first round for this printer and spool. */
  firstRound(request: RoundRequest): Round;
  /** How its piece is read once it is printed. */
  reads(options: OptionValues): ReadingGuide;
  /** Widths of single beads that are measured one by one, mm, where a piece has those instead of bands. */
  tracksMm?(options: OptionValues): number[];
  /** The range that the value is looked for in, for the scale on the bench. */
  range(printer: Printer, spool: Spool, options: OptionValues): { low: number; high: number };
  /** A line below a band's value: a duty beside a percentage, an equivalent. */
  bandNote?(settings: SettingValues, printer: Printer, layerHeightMm: number): string | null;
  /** How the piece is printed where that differs from the usual. */
  process?(usual: Process, options: OptionValues): Process;
  /** How single layers are laid where that differs from the piece: a deck's strands slower than its posts, say. */
  layerProcess?(request: LayersRequest, usual: Process): (layer: number) => Process;
  /** Changes what holds in which layer, where a band is more than one span: cooled before a bridge, say. */
  spread?(request: LayersRequest): void;
  /** What is done behind the print, before what the trial changed is set back; null for nothing. */
  after?(options: OptionValues, printer: Printer): AfterPrint | null;
  /** How early the nozzle is told, where that is an option of the kind's own instead of the plan's lead. */
  early?: { now(options: OptionValues): number; tell(trial: TrialParts, layers: number): Partial<TrialParts> };
}
