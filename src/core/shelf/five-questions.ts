/** What a person can say of a printer without looking anything up, and the figures that follow. */
import { dialectKeys, dialects } from "../machine/dialects";
import type { Printer } from "./printer";

/** How far the filament runs from the drive to the nozzle. */
export type FilamentPath = "short" | "long";

/** Retraction that is usual for a path, mm. Common practice, no source: under 2 mm with the drive on the head, 3–7 mm through a tube. */
export const usualRetractionMm: Record<FilamentPath, number> = { short: 0.8, long: 4 };

/** Above it a retraction belongs to a long path, mm. Common practice, no source. */
const SHORT_PATH_MOST_MM = 2.5;

/** The path a printer's own retraction speaks for. */
export function pathOf({ retractionMm }: Pick<Printer, "retractionMm">): FilamentPath {
  return retractionMm > SHORT_PATH_MOST_MM ? "long" : "short";
}

/** The figures that a choice of path fills in: what the printer told itself stays if it speaks for the same path. */
export function figuresOfPath(path: FilamentPath, now: Pick<Printer, "retractionMm">): Pick<Printer, "retractionMm"> {
  return { retractionMm: pathOf(now) === path ? now.retractionMm : usualRetractionMm[path] };
}

/** The dialect behind "the fan is only on or off"; going back to one with a duty. */
export function dialectOfFan(onOff: boolean, now: Printer["dialect"]): Printer["dialect"] {
  const fits = (key: Printer["dialect"]) => dialects[key].fanHasDuty !== onOff;
  return fits(now) ? now : dialectKeys.find(fits)!;
}
