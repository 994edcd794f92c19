/** Long frame: straight walls long enough to reach any speed, with corners at their ends. Hollow, so that a layer is all wall. */
import { rectangle } from "../geometry/polygons";
import { beadSpacingMm } from "../material/bead";
import { bandFaces } from "./band-faces";
import { longSideMm, MARGIN_MM } from "./long-side";
import { Specimen, SpecimenRequest, PieceShape } from "./specimen";
import { baseWithArrow, storeyDrawing, storeysOf } from "./storeys";

const DEPTH_MM = 16;

function shape({ plan, labels, beadWidthMm, layerHeightMm, room }: SpecimenRequest): PieceShape {
  const storeys = storeysOf(plan);
  const half = longSideMm(room) / 2;
  // Two walls from outside and two from inside, and no room for anything between them.
  const thick = 4 * beadSpacingMm(beadWidthMm, layerHeightMm);
  const front = -DEPTH_MM / 2;
  const faces = bandFaces(plan, labels, storeys.edgesMm, { minX: -half + 3, widthMm: 18, beadWidthMm });
  const base = baseWithArrow(-half - MARGIN_MM, front - MARGIN_MM, half + MARGIN_MM, -front + MARGIN_MM);
  const outside = rectangle(-half, front, half, -front);
  const inside = rectangle(-half + thick, front + thick, half - thick, -front - thick).reverse();
  return {
    heightMm: storeys.heightMm,
    widthMm: 2 * (half + MARGIN_MM),
    depthMm: DEPTH_MM + 2 * MARGIN_MM + 6,
    solidAt(zMm) {
      const storey = storeys.at(zMm);
      if (storey === null) return [];
      return storey === "base" ? base : [outside, inside, ...faces.raisedAt(zMm, storey.index, front)];
    },
    drawing: storeyDrawing(labels, "------------------------|"),
    legend: faces.legend,
    unlabelled: faces.unlabelled,
  };
}

export const longFrame: Specimen = { shape };
