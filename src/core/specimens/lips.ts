/**
 * Lips: a small body with a sharp nose, thin lips that hang out to the left and the back under every band's edge, a waisted column beside
 * it whose thin middle is a layer of hardly any time, and a short bridge from one small post to another. Everything here curls,
 * droops or melts where air is missing, and splits where there is too much of it. The body is small, so that column and bridge are a
 * large share of every layer.
 *
 *     ________                  < lips to the left and back, > nose
 *    <        \
 *    < digits  >    ( )   [==]   ( ) column with a waist, [==] bridge
 *    <________/
 */
import { circle, rectangle, Ring } from "../geometry/polygons";
import { bandFaces } from "./band-faces";
import { Specimen, SpecimenRequest, PieceShape } from "./specimen";
import { baseWithArrow, storeyDrawing, storeysOf } from "./storeys";

const LEFT = -22;
const BODY_RIGHT = -8;
const NOSE_RIGHT = 1;
const HALF_DEPTH = 4;
const COLUMN_X = 8;
const COLUMN = { footMm: 2.4, waistMm: 0.8, flareMm: 2 };
const BRIDGE = { leftX: 14, postMm: 3.6, spanMm: 8, halfDepth: 2.5, layers: 3 };
const LIP_MM = 3;
/** Degrees from upright. */
const LEFT_DEGREES = 45;
const BACK_DEGREES = 60;
const MARGIN_MM = 1.5;
const RIGHT = BRIDGE.leftX + 2 * BRIDGE.postMm + BRIDGE.spanMm;

/** How far a lip of `degrees` hangs out `aboveMm` over the storey's floor, mm. It ends with the band. */
function reachMm(degrees: number, aboveMm: number, heightMm: number): number {
  const slope = Math.tan((degrees * Math.PI) / 180);
  const rise = Math.min(LIP_MM / slope, heightMm - 0.6);
  return Math.max(0, Math.min(LIP_MM, (aboveMm - (heightMm - rise)) * slope));
}

/** The column's radius: from its foot to a waist, and out again to the next foot by no more than 45°, so that nothing begins in the air. */
function columnRadiusMm(aboveMm: number, heightMm: number): number {
  const { footMm, waistMm } = COLUMN;
  const flareMm = Math.min(COLUMN.flareMm, heightMm * 0.4);
  const waistAt = heightMm - flareMm;
  const wide = footMm - waistMm;
  return aboveMm <= waistAt
    ? footMm - wide * (aboveMm / waistAt)
    : waistMm + Math.min(wide, flareMm) * ((aboveMm - waistAt) / flareMm);
}

function shape({ plan, labels, beadWidthMm, layerHeightMm }: SpecimenRequest): PieceShape {
  const storeys = storeysOf(plan);
  const faces = bandFaces(plan, labels, storeys.edgesMm, {
    minX: LEFT + 1,
    widthMm: BODY_RIGHT - LEFT - 2,
    beadWidthMm,
  });
  const base = baseWithArrow(
    LEFT - LIP_MM - MARGIN_MM,
    -HALF_DEPTH - MARGIN_MM,
    RIGHT + MARGIN_MM,
    HALF_DEPTH + LIP_MM + MARGIN_MM,
  );
  const body: Ring[] = [
    [
      { x: LEFT, y: -HALF_DEPTH },
      { x: BODY_RIGHT, y: -HALF_DEPTH },
      { x: NOSE_RIGHT, y: 0 },
      { x: BODY_RIGHT, y: HALF_DEPTH },
      { x: LEFT, y: HALF_DEPTH },
    ],
  ];
  return {
    heightMm: storeys.heightMm,
    widthMm: 2 * Math.max(RIGHT + MARGIN_MM, -LEFT + LIP_MM + MARGIN_MM),
    depthMm: 2 * (HALF_DEPTH + LIP_MM + MARGIN_MM),
    solidAt(zMm) {
      const storey = storeys.at(zMm);
      if (storey === null) return [];
      if (storey === "base") return base;
      const { index, aboveMm, heightMm } = storey;
      const rings = [...body, ...faces.raisedAt(zMm, index, -HALF_DEPTH)];
      const left = reachMm(LEFT_DEGREES, aboveMm, heightMm);
      if (left > 0.02) rings.push(rectangle(LEFT - left, -HALF_DEPTH + 1, LEFT + 0.5, HALF_DEPTH - 1));
      const back = reachMm(BACK_DEGREES, aboveMm, heightMm);
      if (back > 0.02) rings.push(rectangle(LEFT + 2, HALF_DEPTH - 0.5, BODY_RIGHT - 2, HALF_DEPTH + back));
      rings.push(circle(COLUMN_X, 0, columnRadiusMm(aboveMm, heightMm)));
      const { leftX, postMm, spanMm, halfDepth, layers } = BRIDGE;
      const rightX = leftX + postMm + spanMm;
      rings.push(rectangle(leftX, -halfDepth, leftX + postMm, halfDepth));
      rings.push(rectangle(rightX, -halfDepth, rightX + postMm, halfDepth));
      if (aboveMm > heightMm - Math.min(layers * layerHeightMm, heightMm / 2))
        rings.push(rectangle(leftX + 0.5, -halfDepth, rightX + 0.5, halfDepth));
      return rings;
    },
    drawing: storeyDrawing(labels, ">   )(   [==]"),
    legend: faces.legend,
    unlabelled: faces.unlabelled,
  };
}

export const lips: Specimen = { shape };
