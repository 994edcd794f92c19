/**
 * Posts: four thin posts at growing distances and a plate with the values. Little is laid and much is travelled, so every layer draws
 * the filament back again and again.
 */
import { circle, rectangle } from "../geometry/polygons";
import { bandFaces } from "./band-faces";
import { Specimen, SpecimenRequest, PieceShape } from "./specimen";
import { baseWithArrow, storeyDrawing, storeysOf } from "./storeys";

const PLATE = { minX: -30, maxX: -14, minY: -8, maxY: -4.5 };
const POST_RADIUS_MM = 2.5;
/** Centres; the ways between neighbours are 10, 16, 24 and 30 mm. */
export const POSTS = [
  { x: -22, y: 6 },
  { x: -6, y: 6 },
  { x: 4, y: -6 },
  { x: 28, y: -6 },
];
const MARGIN_MM = 1.5;

function shape({ plan, labels }: SpecimenRequest): PieceShape {
  const storeys = storeysOf(plan);
  const faces = bandFaces(plan, labels, storeys.edgesMm, {
    minX: PLATE.minX + 0.5,
    widthMm: PLATE.maxX - PLATE.minX - 1,
  });
  const base = baseWithArrow(PLATE.minX - MARGIN_MM, PLATE.minY - MARGIN_MM, 31 + MARGIN_MM, 8.5 + MARGIN_MM, 0);
  const standing = [
    rectangle(PLATE.minX, PLATE.minY, PLATE.maxX, PLATE.maxY),
    ...POSTS.map(({ x, y }) => circle(x, y, POST_RADIUS_MM)),
  ];
  return {
    heightMm: storeys.heightMm,
    widthMm: 2 * (31 + MARGIN_MM),
    depthMm: 2 * (8.5 + MARGIN_MM) + 3,
    solidAt(zMm) {
      const storey = storeys.at(zMm);
      if (storey === null) return [];
      return storey === "base" ? base : [...standing, ...faces.raisedAt(zMm, storey.index, PLATE.minY)];
    },
    drawing: storeyDrawing(labels, "   o     o    o        o"),
    legend: faces.legend,
    unlabelled: faces.unlabelled,
  };
}

export const posts: Specimen = { shape };
