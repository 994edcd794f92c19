/**
 * Posts: four thin posts at growing distances and a plate with the values. Little is laid and much is travelled, so every layer draws
 * the filament back again and again. They are laid in their order, so that the way from each to the next is always the same.
 */
import { circle, rectangle } from "../geometry/polygons";
import { bandFaces } from "./band-faces";
import { Specimen, SpecimenRequest, PieceShape } from "./specimen";
import { baseWithArrow, storeyDrawing, storeysOf } from "./storeys";

const POST_RADIUS_MM = 2.5;
/** Air between one post and the next, in the order they are laid, mm. */
const AIR_MM = [15, 20, 25];
const APART_MM = AIR_MM.map((air) => air + 2 * POST_RADIUS_MM);
/** The second way runs aslant, from the back row to the front one. */
const ASIDE_MM = 12;
const HALF_WIDTH_MM = (APART_MM[0] + ASIDE_MM + APART_MM[2]) / 2;
const HALF_DEPTH_MM = Math.sqrt(APART_MM[1] ** 2 - ASIDE_MM ** 2) / 2;
/** Centres of the posts. */
const POSTS = [
  { x: -HALF_WIDTH_MM, y: HALF_DEPTH_MM },
  { x: -HALF_WIDTH_MM + APART_MM[0], y: HALF_DEPTH_MM },
  { x: HALF_WIDTH_MM - APART_MM[2], y: -HALF_DEPTH_MM },
  { x: HALF_WIDTH_MM, y: -HALF_DEPTH_MM },
];
const PLATE_LEFT_MM = -HALF_WIDTH_MM - 2;
const PLATE_FRONT_MM = -HALF_DEPTH_MM - POST_RADIUS_MM;
const PLATE = {
  minX: PLATE_LEFT_MM,
  maxX: PLATE_LEFT_MM + 16,
  minY: PLATE_FRONT_MM,
  maxY: PLATE_FRONT_MM + 3.5,
};
const MARGIN_MM = 1.5;

function shape({ plan, labels, beadWidthMm }: SpecimenRequest): PieceShape {
  const storeys = storeysOf(plan);
  const faces = bandFaces(plan, labels, storeys.edgesMm, {
    minX: PLATE.minX + 0.5,
    widthMm: PLATE.maxX - PLATE.minX - 1,
    beadWidthMm,
  });
  const right = HALF_WIDTH_MM + POST_RADIUS_MM + MARGIN_MM;
  const back = HALF_DEPTH_MM + POST_RADIUS_MM + MARGIN_MM;
  const base = baseWithArrow(-right, -back, right, back, 0);
  const standing = [
    rectangle(PLATE.minX, PLATE.minY, PLATE.maxX, PLATE.maxY),
    ...POSTS.map(({ x, y }) => circle(x, y, POST_RADIUS_MM)),
  ];
  return {
    heightMm: storeys.heightMm,
    widthMm: 2 * right,
    depthMm: 2 * (back + 3),
    solidAt(zMm) {
      const storey = storeys.at(zMm);
      if (storey === null) return [];
      return storey === "base" ? base : [...standing, ...faces.raisedAt(zMm, storey.index, PLATE.minY)];
    },
    order: [{ x: (PLATE.minX + PLATE.maxX) / 2, y: (PLATE.minY + PLATE.maxY) / 2 }, ...POSTS],
    drawing: storeyDrawing(labels, "   o     o    o        o"),
    legend: faces.legend,
    unlabelled: faces.unlabelled,
  };
}

export const posts: Specimen = { shape };
