/**
 * Lips: a small body with a sharp nose, thin lips that hang out to the left and the back under every band's edge, and a cone beside
 * it whose tip is a layer of hardly any time. Everything here curls, droops or melts where air is missing, and splits where there is
 * too much of it.
 *
 *      ____________
 *    <             \
 *    <  digits      >   o      < lips to the left, > nose, o cone
 *    <_____________/
 */
import { circle, rectangle, Ring } from "../geometry/polygons";
import { bandFaces } from "./band-faces";
import { Specimen, SpecimenRequest, PieceShape } from "./specimen";
import { baseWithArrow, storeyDrawing, storeysOf } from "./storeys";

const LEFT = -22;
const BODY_RIGHT = -2;
const NOSE_RIGHT = 15;
const HALF_DEPTH = 6;
const CONE_X = 21;
const LIP_MM = 3;
/** Degrees from upright. */
const LEFT_DEGREES = 45;
const BACK_DEGREES = 60;
const MARGIN_MM = 1.5;

/** How far a lip of `degrees` hangs out `aboveMm` over the storey's floor, mm. It ends with the band. */
function reachMm(degrees: number, aboveMm: number, heightMm: number): number {
  const slope = Math.tan((degrees * Math.PI) / 180);
  const rise = Math.min(LIP_MM / slope, heightMm - 0.6);
  return Math.max(0, Math.min(LIP_MM, (aboveMm - (heightMm - rise)) * slope));
}

function shape({ plan, labels }: SpecimenRequest): PieceShape {
  const storeys = storeysOf(plan);
  const faces = bandFaces(plan, labels, storeys.edgesMm, { minX: LEFT + 1, widthMm: BODY_RIGHT - LEFT - 2 });
  const base = baseWithArrow(
    LEFT - LIP_MM - MARGIN_MM,
    -HALF_DEPTH - MARGIN_MM,
    CONE_X + 3 + MARGIN_MM,
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
    widthMm: 2 * Math.max(CONE_X + 3 + MARGIN_MM, -LEFT + LIP_MM + MARGIN_MM),
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
      if (back > 0.02) rings.push(rectangle(LEFT + 3, HALF_DEPTH - 0.5, BODY_RIGHT - 3, HALF_DEPTH + back));
      const coneMm = heightMm - 1;
      if (aboveMm < coneMm) rings.push(circle(CONE_X, 0, 2.4 - 1.9 * (aboveMm / coneMm)));
      return rings;
    },
    drawing: storeyDrawing(labels, ">   o"),
    legend: faces.legend,
    unlabelled: faces.unlabelled,
  };
}

export const lips: Specimen = { shape };
