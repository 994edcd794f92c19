/** A plate with the values of the bands, in front of what is tried. */
import { rectangle, Ring } from "../geometry/polygons";
import { BandFaces, bandFaces } from "./band-faces";
import type { SpecimenRequest } from "./specimen";

export const PLATE = { widthMm: 18, depthMm: 3.5, gapMm: 4 };

export interface PlateBefore {
  plate: Ring;
  /** Where its front stands. */
  frontMm: number;
  faces: BandFaces;
}

/** @param front where the piece behind it begins, mm @param edgesMm the bands' lower edges */
export function plateBefore(
  front: number,
  { plan, labels, beadWidthMm }: Pick<SpecimenRequest, "plan" | "labels" | "beadWidthMm">,
  edgesMm: readonly number[],
): PlateBefore {
  const back = front - PLATE.gapMm;
  const frontMm = back - PLATE.depthMm;
  const left = -PLATE.widthMm / 2;
  const faces = bandFaces(plan, labels, edgesMm, { minX: left + 0.5, widthMm: PLATE.widthMm - 1, beadWidthMm });
  return { plate: rectangle(left, frontMm, -left, back), frontMm, faces };
}
