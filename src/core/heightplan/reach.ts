/** Which speeds of drawing back the extruder never comes to, so that bands that differ only there are alike on the piece. */
import { plainNumber } from "../units";
import { peakMmS } from "../motion/trapezoid";
import type { SettingValues } from "../settings";
import type { Printer } from "../shelf/printer";
import type { HeightPlan } from "./plan";

export interface OutOfReach {
  /** The length drawn back, and the fastest the extruder comes to over it. */
  lengthMm: number;
  reachesMmS: number;
  /** Which of the side-by-side values it is (from 1); null where there is only one length. */
  spot: number | null;
  /** Bands (from 1) that ask for more, if they are two or more or follow one that reaches: they are alike. */
  bands: number[];
}

/** A band counts as alike only if it asks for clearly more than is reached. */
const CLEARLY = 1.05;

/** Lengths over which some bands' speeds are never reached, by the acceleration the extruder draws back with. */
export function outOfReach(
  { plan, fixed }: { plan: HeightPlan; fixed: SettingValues },
  printer: Pick<Printer, "retractAccelerationMmS2" | "retractionMm">,
): OutOfReach[] {
  const { sideBySide, bands } = plan;
  const side = sideBySide?.setting === "retractionLength" ? sideBySide.values : null;
  const usual = fixed.retractionLength ?? printer.retractionMm;
  const lengthOf = (settings: SettingValues) => settings.retractionLength ?? usual;
  const at = (lengthMm: number, spot: number | null): OutOfReach => {
    const reachesMmS = peakMmS(lengthMm, printer.retractAccelerationMmS2);
    const alike = bands.flatMap(({ settings }, i) => {
      const wanted = settings.retractionSpeed;
      const own = spot === null ? peakMmS(lengthOf(settings), printer.retractAccelerationMmS2) : reachesMmS;
      return wanted !== undefined && wanted > own * CLEARLY ? [i + 1] : [];
    });
    return { lengthMm, reachesMmS, spot, bands: alike };
  };
  const all = side ? side.map((lengthMm, i) => at(lengthMm, i + 1)) : [at(usual, null)];
  return all.filter(({ lengthMm, bands: alike }) => lengthMm > 0 && alike.length > 0);
}

/** Lengths and the speed they come to, in a sentence for the legend; empty where all bands are reached. */
export function sayOutOfReach(found: readonly OutOfReach[]): string {
  if (found.length === 0) return "";
  const each = found.map(
    ({ lengthMm, reachesMmS }) => `${plainNumber(lengthMm, 2)} mm ${plainNumber(reachesMmS, 0)} mm/s`,
  );
  return `The extruder gets no faster than this, so that quicker bands are alike there: ${each.join(", ")}.`;
}
