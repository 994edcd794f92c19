/**
 * How far a next round may go: what setting and printer allow, what the spool's label and material bear, and what takes a sensible time.
 * A round that the checks would stop is none. Common practice, no source.
 */
import { COLDEST_FEED_C } from "../material/materials";
import { mostOf, Ruled } from "../material/rules";
import { SettingKey, settingFor } from "../settings";
import { pathOf } from "../shelf/five-questions";
import type { Printer } from "../shelf/printer";
import type { Spool } from "../shelf/spool";

export interface RoundEnds {
  low: number;
  high: number;
}

/** What a round is asked of. */
export interface OnPair {
  printer: Printer;
  /** Null where it is not known any more: then only the printer sets ends. */
  spool: Spool | null;
}

/** A label is stretched by so much a round at most, °C. */
const STRETCH_C = 10;
/** What is drawn back further on a path takes melt into the cold part, mm. */
export const LONGEST_BACK_MM = { short: 3, long: 8 } as const;
/** Speeds and accelerations go on by so much a round at most: half as slow, twice as fast. */
const FASTER = 2;
const scaled: readonly SettingKey[] = [
  "printSpeed",
  "travelSpeed",
  "acceleration",
  "jerk",
  "junctionDeviation",
  "retractionSpeed",
];
const ruled: readonly SettingKey[] = ["printSpeed", "retractionLength", "retractionSpeed", "fan"];

/** The highest value of a setting that a printer can have. */
export function highestOn(key: SettingKey, printer: Printer): number {
  const own: Partial<Record<SettingKey, number>> = {
    nozzleTemperature: printer.highestNozzleC,
    bedTemperature: printer.highestBedC,
    printSpeed: printer.highestFeedXyMmS,
    travelSpeed: printer.highestFeedXyMmS,
    retractionSpeed: printer.highestFeedEMmS,
    retractionLength: LONGEST_BACK_MM[pathOf(printer)],
  };
  return Math.min(settingFor(key).highest, own[key] ?? Infinity);
}

/** The ends for a setting after the values that were tried, which rise. */
export function roundEnds(key: SettingKey, { printer, spool }: OnPair, tried: readonly number[]): RoundEnds {
  const [first, last] = [tried[0], tried[tried.length - 1]];
  const ends = { low: settingFor(key).lowest, high: highestOn(key, printer) };
  if (key === "nozzleTemperature") {
    const [from, to] = spool ? [spool.labelMinC, spool.labelMaxC] : [first, last];
    ends.low = Math.max(COLDEST_FEED_C, Math.min(first, from) - STRETCH_C);
    ends.high = Math.min(ends.high, Math.max(last, to) + STRETCH_C);
  }
  if (scaled.includes(key)) {
    ends.low = Math.max(ends.low, first / FASTER);
    ends.high = Math.min(ends.high, last * FASTER);
  }
  if (spool && ruled.includes(key)) ends.high = Math.min(ends.high, mostOf(spool.material, key as Ruled));
  return ends;
}
