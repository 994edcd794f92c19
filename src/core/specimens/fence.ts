/**
 * The fence: a ring of posts, one a side-by-side value, and a plate in front with the value of every band. Posts are laid round the
 * ring in turn, so the string between a post and the next belongs to the first of the two. Post 1 is the thick one behind the arrow;
 * every fifth post is square.
 */
import { circle, rectangle, Ring } from "../geometry/polygons";
import { plainNumber } from "../units";
import { bandFaces } from "./band-faces";
import { Spot, Specimen, SpecimenRequest, PieceShape } from "./specimen";
import { baseWithArrow, storeyDrawing, storeysOf } from "./storeys";

const POST_RADIUS_MM = 2;
const FIRST_POST_MM = 6.4;
const SQUARE_POST_MM = 4.4;
/** Air between two posts; where the bed has no room for it, as little as this. Strings of short lengths need the longer way to show. */
const AIR_MM = 10;
const LEAST_AIR_MM = 2.5;
const SMALLEST_RADIUS_MM = 14;
const PLATE = { widthMm: 16, depthMm: 3.5, gapMm: 5 };
const FOOT_MM = 4.5;

/** The thick post and its neighbour stand closest: their half widths, mm. */
const CLOSEST_MM = FIRST_POST_MM / 2 + POST_RADIUS_MM;

/** Radius of a ring with so much air between neighbours: the chord of a circle, c = 2·r·sin(π/n). */
function radiusForAirMm(count: number, airMm: number): number {
  return count < 3 ? 0 : (airMm + CLOSEST_MM) / (2 * Math.sin(Math.PI / count));
}

/** Radius of the ring on which `count` posts stand, mm; closer together where the room asks for it. */
export function fenceRadiusMm(count: number, room: { widthMm: number; depthMm: number }): number {
  const usual = Math.max(SMALLEST_RADIUS_MM, radiusForAirMm(count, AIR_MM));
  const least = Math.max(SMALLEST_RADIUS_MM, radiusForAirMm(count, LEAST_AIR_MM));
  const plate = PLATE.gapMm + PLATE.depthMm + FOOT_MM;
  const fits = Math.min(room.widthMm / 2 - FOOT_MM, (room.depthMm - plate) / 2 - FOOT_MM);
  return Math.max(least, Math.min(usual, fits));
}

function shape({ plan, labels, room, beadWidthMm }: SpecimenRequest): PieceShape {
  const storeys = storeysOf(plan);
  const values = plan.sideBySide?.values ?? [];
  const radius = fenceRadiusMm(values.length, room);
  // The middle of ring and plate together is the middle of the bed.
  const plateDepth = PLATE.gapMm + PLATE.depthMm;
  const middleY = plateDepth / 2;
  const plateBack = middleY - radius - FIRST_POST_MM / 2 - PLATE.gapMm;
  const plateFront = plateBack - PLATE.depthMm;
  const spots: Spot[] = values.map((value, i) => {
    const angle = -Math.PI / 2 + (i * 2 * Math.PI) / values.length;
    return { x: radius * Math.cos(angle), y: middleY + radius * Math.sin(angle), label: plainNumber(value, 2) };
  });
  const plate = { minX: -PLATE.widthMm / 2, maxX: PLATE.widthMm / 2 };
  const faces = bandFaces(plan, labels, storeys.edgesMm, {
    minX: plate.minX + 0.5,
    widthMm: PLATE.widthMm - 1,
    beadWidthMm,
  });
  const standing: Ring[] = [
    rectangle(plate.minX, plateFront, plate.maxX, plateBack),
    ...spots.map(({ x, y }, i) => {
      const square = (size: number) => rectangle(x - size / 2, y - size / 2, x + size / 2, y + size / 2);
      if (i === 0) return square(FIRST_POST_MM);
      return (i + 1) % 5 === 0 ? square(SQUARE_POST_MM) : circle(x, y, POST_RADIUS_MM);
    }),
  ];
  const hole = circle(0, middleY, radius - FOOT_MM).reverse();
  const foot: Ring[] = [
    circle(0, middleY, radius + FOOT_MM),
    hole,
    ...baseWithArrow(plate.minX - 1, plateFront - 1.5, plate.maxX + 1, middleY - radius - 1),
  ];
  const airMm = 2 * radius * Math.sin(Math.PI / Math.max(values.length, 3)) - CLOSEST_MM;
  // Less air than this shows the strings of short lengths only.
  const near =
    airMm < AIR_MM - 0.05 ? ` Only ${plainNumber(airMm, 1)} mm of air between posts: little to see above 2 mm.` : "";
  const lengths = values.map((value, i) => `post ${i + 1}: ${plainNumber(value, 2)} mm`);
  return {
    heightMm: storeys.heightMm,
    widthMm: 2 * (radius + FOOT_MM),
    depthMm: 2 * (middleY - plateFront + 1.5 + 3),
    solidAt(zMm) {
      const storey = storeys.at(zMm);
      if (storey === null) return [];
      return storey === "base" ? foot : [...standing, ...faces.raisedAt(zMm, storey.index, plateFront)];
    },
    spots,
    drawing: [
      ...storeyDrawing(labels),
      "",
      "a ring of posts stands behind the plate, counted from the thick one behind the arrow, to the right and round (counter-clockwise from above)",
      ...inRows(lengths, 4),
    ],
    legend: `${faces.legend} Post 1 is the thick one behind the arrow; count to the right and round, every fifth is square. A string belongs to the post it comes from.${near}`,
    unlabelled: faces.unlabelled,
  };
}

function inRows(texts: string[], perRow: number): string[] {
  const rows: string[] = [];
  for (let i = 0; i < texts.length; i += perRow) rows.push(`  ${texts.slice(i, i + perRow).join("   ")}`);
  return rows;
}

export const fence: Specimen = { shape };
