/**
 * The shape that a trial prints. A specimen only says what is solid at a height; walls, fill, bridges and travels are the
 * business of `printing/`.
 */
import { Ring } from "../geometry/polygons";
import { HeightPlan } from "../heightplan/plan";

export interface Specimen {
  /** The name on screen: `Arcade`. */
  label: string;
  /** What it provokes, in one sentence. */
  provokes: string;
  /**
   * The piece for one plan. `labels` are the values to be raised on each band, bottom first.
   */
  shape(plan: HeightPlan, labels: string[]): SpecimenShape;
}

export interface SpecimenShape {
  /** mm */
  heightMm: number;
  /** Room it takes, X by Y, mm, centred on 0, 0. The front is the side of smallest Y. */
  widthMm: number;
  depthMm: number;
  /** Everything solid at the height, as overlapping counter-clockwise rings in mm. Heights outside give none. */
  solidAt(zMm: number): Ring[];
  /** The piece in text, seen from the front, top line first; for the program's header. */
  drawing: string[];
  /** Bands too low to carry their value on the piece (number from 1). */
  unlabelled: number[];
}
