/**
 * The shape that a trial prints. A specimen only says what is solid at a height, and where single beads run; walls, fill, bridges
 * and travels are the business of `printing/`.
 */
import { Ring } from "../geometry/polygons";
import { HeightPlan } from "../heightplan/plan";
import { Track } from "../printing/track";
import { OptionValues } from "../trials/option";

export interface SpecimenRequest {
  plan: HeightPlan;
  /** The values to be read on each band, bottom first. */
  labels: string[];
  /** What the trial's kind leaves to choose. */
  options: OptionValues;
  layerHeightMm: number;
  firstLayerHeightMm: number;
  beadWidthMm: number;
  /** Room on the bed, X by Y, mm: the largest upright rectangle round the middle, margins taken off. */
  room: { widthMm: number; depthMm: number };
}

export interface Specimen {
  /** The name on screen: `Arcade`. */
  label: string;
  /** What it provokes, in one sentence. */
  provokes: string;
  /** The piece for one plan. */
  shape(request: SpecimenRequest): SpecimenShape;
}

/** A spot of the piece on which one of several side-by-side values is tried. */
export interface Spot {
  x: number;
  y: number;
  label: string;
}

export interface SpecimenShape {
  /** mm */
  heightMm: number;
  /** Room it takes, X by Y, mm, centred on 0, 0. The front is the side of smallest Y. */
  widthMm: number;
  depthMm: number;
  /** Everything solid at the height, as overlapping counter-clockwise rings in mm. Heights outside give none. */
  solidAt(zMm: number): Ring[];
  /** Single beads at the height, in the order they are laid. */
  tracksAt?(zMm: number): Track[];
  /** The spots of side-by-side values, in the order they are printed in every layer. */
  spots?: Spot[];
  /** The piece in text, seen from the front, top line first; for the program's header. */
  drawing: string[];
  /** How the bands are told apart on the piece: one sentence for screen and header. */
  legend: string;
  /** Bands too low to carry their value on the piece (number from 1). */
  unlabelled: number[];
}
