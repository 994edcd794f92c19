/**
 * Posts: four thin posts at growing distances and a plate with the values. Little is laid and much is travelled, so every layer draws
 * the filament back again and again. They are laid in their order, so that the way from each to the next is always the same.
 */
import { circle, rectangle } from "../geometry/polygons";
import { bandFaces } from "./band-faces";
import { Specimen, SpecimenRequest, PieceShape } from "./specimen";
import { baseWithArrow, storeyDrawing, storeysOf } from "./storeys";

const PLATE = { minX: -33, maxX: -17, minY: -13.5, maxY: -10 };
const POST_RADIUS_MM = 2.5;
/** Centres, in the order they are laid: 15, 20 and 25 mm of air lie between one and the next. */
export const POSTS = [
  { x: -31, y: 10.5 },
  { x: -11, y: 10.5 },
  { x: 1, y: -11.43 },
  { x: 31, y: -11.43 },
];
const MARGIN_MM = 1.5;

function shape({ plan, labels, beadWidthMm }: SpecimenRequest): PieceShape {
  const storeys = storeysOf(plan);
  const faces = bandFaces(plan, labels, storeys.edgesMm, {
    minX: PLATE.minX + 0.5,
    widthMm: PLATE.maxX - PLATE.minX - 1,
    beadWidthMm,
  });
  const edge = { x: POSTS[3].x + POST_RADIUS_MM + MARGIN_MM, y: POSTS[0].y + POST_RADIUS_MM + MARGIN_MM };
  const base = baseWithArrow(-edge.x, -15, edge.x, edge.y, 0);
  const standing = [
    rectangle(PLATE.minX, PLATE.minY, PLATE.maxX, PLATE.maxY),
    ...POSTS.map(({ x, y }) => circle(x, y, POST_RADIUS_MM)),
  ];
  return {
    heightMm: storeys.heightMm,
    widthMm: 2 * edge.x,
    depthMm: 2 * (15 + 3),
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
