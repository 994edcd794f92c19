/** What is really so of a spool on a simulated printer, whatever anybody has typed. All of it is invented; it is the same for the same pair. */
import { pathOf } from "../../shelf/five-questions";
import type { Printer } from "../../shelf/printer";
import type { Spool } from "../../shelf/spool";
import { settingFor } from "../../settings";
import { Noise } from "../noise";
import { personalities } from "../personalities";

export interface PieceTruths {
  /** As the printer's thermometer shows it: hotter strings and sags, colder bonds less. */
  bestNozzleC: number;
  /** More air bonds less, less lets overhangs droop. */
  bestFanPercent: number;
  /** The shortest retraction that leaves next to no strings at the best temperature and speed, mm. */
  cleanRetractionMm: number;
  /** The speed of drawing back at which the shortest is shortest, mm/s. */
  bestRetractionMmS: number;
  /** The highest speed that is still clean, mm/s. */
  cleanSpeedMmS: number;
  /** The highest acceleration whose edges are still clean, mm/s². */
  cleanAccelerationMmS2: number;
  /** How far the frame swings in a second, Hz. */
  resonanceHz: number;
  /** Cornering, in shares of the printer's own. */
  bestCorneringShare: number;
  bestPressureAdvance: number;
  /** Share of the filament asked for that is really fed, by tool. */
  feed: number[];
}

/** The middle of what was tried by nobody: somewhere within the label, away from its ends. */
function within(low: number, high: number, share: number): number {
  return low + (high - low) * (0.2 + 0.6 * share);
}

const numberOf = (text: string) =>
  [...text].reduce((sum, letter) => (Math.imul(sum, 31) + letter.charCodeAt(0)) >>> 0, 7);

/** What of a spool decides how hot it wants to be. */
export type LookedAt = Pick<Spool, "name" | "maker" | "labelMinC" | "labelMaxC">;

/** The hidden best temperature of a spool, °C in truth. */
export function bestNozzleOf({ name, maker, labelMinC, labelMaxC }: LookedAt): number {
  return within(labelMinC, labelMaxC, new Noise(numberOf(`${maker} ${name}`)).even());
}

/** The hidden truths of a spool on a printer. */
export function truthsOf(printer: Printer, spool: Spool): PieceTruths {
  const { truths } = personalities[printer.dialect];
  const noise = new Noise(numberOf(`${printer.name} ${spool.maker} ${spool.name} ${spool.material}`));
  // The first draws of such a generator lie close together for seeds that do.
  noise.even();
  const between = (low: number, high: number) => low + (high - low) * noise.even();
  const isLong = pathOf(printer) === "long";
  return {
    bestNozzleC: bestNozzleOf(spool) + truths.nozzleReadsHighC,
    bestFanPercent: Math.min(92, Math.max(8, spool.fanPercent * between(0.55, 0.9))),
    cleanRetractionMm: isLong ? between(2.2, 4.8) : between(0.5, 1.3),
    bestRetractionMmS: between(28, 45),
    cleanSpeedMmS: settingFor("printSpeed").usual(printer, spool) * between(1.5, 2.4),
    cleanAccelerationMmS2: printer.printAccelerationMmS2 * between(1.2, 2.2),
    resonanceHz: between(28, 62),
    bestCorneringShare: between(0.7, 1.6),
    bestPressureAdvance: isLong ? between(0.25, 0.75) : between(0.025, 0.09),
    feed: truths.extruderFeed,
  };
}
