/** What is known of a linked printer, as server and pages speak of it. */
import type { HeaterReading } from "../firmware/reports/temperatures";
import type { Told } from "../machine/state";
import type { Identity } from "../firmware/reports/identity";
import type { ValueReading } from "../firmware/values/reading";
import type { Mark } from "../heightplan/marks";
import type { ResolvedBand } from "../heightplan/plan";
import type { Life } from "./life";
import type { JobLog } from "../report/progress";
import type { SettingKey } from "../settings";
import type { Trial } from "../trials/trial";

export type { JobLog } from "../report/progress";

/** Who asked for a line. `watch` is the question for temperatures while somebody looks at them. */
export type Source = "console" | "values" | "measure" | "heat" | "job" | "nudge" | "watch" | "stop";

export type Direction = "out" | "in" | "note";

/** One line that was said, or a note about the link. */
export interface LinkEvent {
  id: number;
  atMs: number;
  direction: Direction;
  source: Source;
  text: string;
}

export interface HeatSample {
  /** Counts up; tells what is new. */
  index: number;
  /** Time of the printer since the link was made, s. */
  atS: number;
  nozzles: HeaterReading[];
  bed: HeaterReading | null;
}

export type JobState = "running" | "paused" | "done" | "cancelled" | "broken";

export interface JobStatus {
  id: number;
  name: string;
  source: "trial" | "file";
  sourceId: number;
  state: JobState;
  linesTaken: number;
  totalLines: number;
  heightMm: number;
  topMm: number;
  /** Index from 0; -1 before the first. */
  layer: number;
  layers: number;
  /** Seconds of printing left, by the motion alone, in the printer's own time. */
  secondsLeft: number;
  /** 0–1, by lines. */
  share: number;
  why: string;
  marks: number;
}

/** A program that is being made ready to be sent, whoever waits for it. */
export interface Preparing {
  name: string;
  source: "trial" | "file";
  sourceId: number;
  /** 0–1. */
  share: number;
  /** Why it came to nothing; null while it goes on. */
  failed: string | null;
}

/** A job as lists show it. */
export type BriefJob = Pick<JobRecord, "id" | "printerId" | "name" | "state" | "heightMm" | "startedAt" | "endedAt">;

/** A job as it is kept. */
export interface JobRecord {
  id: number;
  printerId: number;
  source: "trial" | "file";
  sourceId: number;
  name: string;
  state: JobState;
  totalLines: number;
  linesTaken: number;
  heightMm: number;
  /** What the printer was told up to there. */
  told: Told;
  why: string;
  startedAt: string;
  endedAt: string | null;
  seen: boolean;
}

export interface JobMark extends Mark {
  madeAt: string;
}

/** The nozzle as it was measured at a height. */
export interface JobSample {
  heightMm: number;
  nozzleC: number;
}

/** A trial with its bands on whole layers, as it was when its program was built. */
export type PrintedTrial = Trial & { layerCount: number; bands: ResolvedBand[] };

/** Everything about a job on a link. */
export interface JobView {
  status: JobStatus;
  /** The trial as it is printed, whatever it was changed to since; null for a file. */
  trial: PrintedTrial | null;
  log: JobLog;
  samples: JobSample[];
  marks: JobMark[];
}

/** Settings that can be changed by hand while a job runs. */
export const nudgeable: SettingKey[] = ["nozzleTemperature", "fan", "flowFactor", "speedFactor", "pressureAdvance"];

export interface LinkStatus {
  printerId: number;
  state: Life["is"];
  transport: string;
  /** Seconds of the printer that pass in one second here. */
  rate: number;
  simulated: boolean;
  lostBecause: string | null;
  halted: string | null;
  inFlight: string | null;
  /** No sign of life for the line in flight. */
  silent: boolean;
  busy: boolean;
  /** The first lines that wait, and how many there are. */
  queue: { id: number; text: string; source: Source }[];
  queueLength: number;
  /** The last lines that were never sent, and how many there are. */
  unsent: string[];
  unsentCount: number;
  /** When the printer last started anew since it was linked, ISO; null if it did not. */
  restartedAt: string | null;
  homed: boolean | null;
  nozzleC: number | null;
  heat: HeatSample | null;
  /** Seconds since that was measured; null where nothing was. */
  heatAgeS: number | null;
  /** What the screen of a simulated printer shows; null for a real one, whose screen nobody can see from here. */
  display: string | null;
  /** Somebody asks for temperatures. */
  watching: boolean;
  job: JobStatus | null;
  /** A program that is being made ready to be sent; null if there is none. */
  preparing: Preparing | null;
  /** What was done could not be written down, and why; null if all is. */
  unwritten: string | null;
}

/** A reading of a printer's values, as it is kept. */
export interface ValueSnapshot extends ValueReading {
  id: number;
  takenAt: string;
  identity: Identity;
  /** It says what the printer stores, not only what was in force. */
  isStored: boolean;
}

/** `lost`: it was tried, and went with the power before it was saved. */
export type ChangeState = "tried" | "refused" | "saved" | "put back" | "lost";

/** A change of a value that was tried. */
export interface ValueChange {
  id: number;
  valueId: string;
  from: number | null;
  to: number;
  line: string;
  why: string;
  state: ChangeState;
  changedAt: string;
}
