/** The shapes that trials print, and what they are made from. */
import { HeightPlan } from "../heightplan/plan";
import { OptionValues } from "../options/option";
import type { PieceShape } from "../printing/piece";

export type { PieceShape, Spot } from "../printing/piece";

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
  /** The piece for one plan. */
  shape(request: SpecimenRequest): PieceShape;
}
