/** The form a plan takes on an opened file: from a place on, until another, these values. */
import type { SettingValues } from "../settings";
import { HEIGHT_TOLERANCE_MM } from "../units";

/** A place on the height axis. */
export type Place = { heightMm: number } | { layer: number; countsFrom: 0 | 1 };

/**
 * From a place on, other values hold: to the end, to the next change of the same setting, or until a place where the
 * value from before returns. A layer that lies only partly above a place counts as above it.
 */
export interface Change {
  from: Place;
  until?: Place;
  settings: SettingValues;
  /** Which tool it is for; the first where it is left out. */
  tool?: number;
  /** Lines of the user's own, put in where it starts. */
  lines?: string[];
  /** The nozzle's temperature changes so many layers before it starts, so that the nozzle has time to follow. */
  leadLayers?: number;
}

/** Whether a layer with its top at `zMm` lies wholly or partly above the place. */
export function isAbove(place: Place, index: number, zMm: number): boolean {
  if ("heightMm" in place) return zMm > place.heightMm + HEIGHT_TOLERANCE_MM;
  return index >= place.layer - place.countsFrom;
}
