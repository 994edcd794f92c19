/**
 * The harp: a wall on the left and posts that step away from it, so that every storey carries spans from 15 to 60 mm side by side. There
 * is no plate below, and the spans of a storey stand a deck's width behind those of the storey under it: from below every underside
 * is seen, straight on, and can be photographed.
 *
 *      ================[ ]  60      back; in every row the lowest storey's span is the front one
 *      ===========[ ]       45
 *      ======[ ]            30
 *      ===[ ]               15      front, with the values on the wall's end
 */
import { rectangle, Ring } from "../geometry/polygons";
import { clamp } from "../units";
import { bandFaces } from "./band-faces";
import { deckFromMm } from "./harp-deck";
import { Specimen, SpecimenRequest, PieceShape } from "./specimen";
import { baseWithArrow, storeyDrawing, storeysOf } from "./storeys";

export const SPANS_MM = [15, 30, 45, 60];
/** The face with the values stands out to the left of the wall, so that the wall need not be as wide as they are. */
const WALL_MM = 4;
const FACE = { widthMm: 12, depthMm: 4 };
const POST_MM = 4;
const DECK_WIDTH_MM = 2.5;
const ROW_GAP_MM = 1.5;
const FOOT_MM = 2;

/** The spans that fit on the bed. */
export function spansFor(room: { widthMm: number }): number[] {
  const fits = SPANS_MM.filter((span) => FACE.widthMm + span + POST_MM + 2 * FOOT_MM <= room.widthMm);
  return fits.length > 0 ? fits : SPANS_MM.slice(0, 1);
}

/** A plate under one standing part. */
const foot = (minX: number, minY: number, maxX: number, maxY: number): Ring =>
  rectangle(minX - FOOT_MM, minY - FOOT_MM, maxX + FOOT_MM, maxY + FOOT_MM);

function shape({ plan, labels, layerHeightMm, beadWidthMm, room }: SpecimenRequest): PieceShape {
  const storeys = storeysOf(plan);
  const spans = spansFor(room);
  // Every storey's deck beside the others': a row is as deep as all of them, as far as the bed is.
  const roomPerRow = (room.depthMm - FACE.depthMm - 2 * FOOT_MM) / spans.length - ROW_GAP_MM;
  const stepMm = clamp(roomPerRow / plan.bands.length, 0, DECK_WIDTH_MM);
  const rowMm = DECK_WIDTH_MM + (plan.bands.length - 1) * stepMm;
  const widthMm = FACE.widthMm + spans[spans.length - 1] + POST_MM;
  const depthMm = FACE.depthMm + spans.length * (rowMm + ROW_GAP_MM);
  const left = -widthMm / 2;
  const front = -depthMm / 2;
  const wallRight = left + FACE.widthMm;
  const faces = bandFaces(plan, labels, storeys.edgesMm, { minX: left + 0.5, widthMm: FACE.widthMm - 1, beadWidthMm });
  const rows = spans.map((span, i) => ({
    span,
    minY: front + FACE.depthMm + i * (rowMm + ROW_GAP_MM),
    postX: wallRight + span,
  }));
  const standing: Ring[] = [
    rectangle(left, front, wallRight, front + FACE.depthMm),
    rectangle(wallRight - WALL_MM, front, wallRight, front + depthMm),
    ...rows.map(({ minY, postX }) => rectangle(postX, minY, postX + POST_MM, minY + rowMm)),
  ];
  const base: Ring[] = [
    ...baseWithArrow(left - FOOT_MM, front - FOOT_MM, wallRight + FOOT_MM, front + FACE.depthMm + FOOT_MM),
    foot(wallRight - WALL_MM, front, wallRight, front + depthMm),
    ...rows.map(({ minY, postX }) => foot(postX, minY, postX + POST_MM, minY + rowMm)),
  ];
  const seen =
    stepMm >= DECK_WIDTH_MM
      ? "Seen from below, the lowest band's span is the front one of each row."
      : "The bed has no room to set every band's spans behind the last: from below, each hides a part of the next.";
  const decksOf = (index: number) =>
    rows.map(({ minY, postX }) => {
      const y = minY + index * stepMm;
      return rectangle(wallRight - 0.5, y, postX + 0.5, y + DECK_WIDTH_MM);
    });
  return {
    heightMm: storeys.heightMm,
    widthMm: widthMm + 2 * FOOT_MM,
    depthMm: depthMm + 2 * FOOT_MM + 6,
    solidAt(zMm) {
      const storey = storeys.at(zMm);
      if (storey === null) return [];
      if (storey === "base") return base;
      const rings = [...standing, ...faces.raisedAt(zMm, storey.index, front)];
      if (zMm > deckFromMm(storey.floorMm + storey.heightMm, layerHeightMm)) rings.push(...decksOf(storey.index));
      return rings;
    },
    drawing: [
      ...storeyDrawing(labels),
      `  spans from front to back: ${spans.join(", ")} mm, from the wall to the posts; higher storeys' spans stand further back`,
    ],
    legend: `${faces.legend} Spans grow from front to back: ${spans.join(", ")} mm. ${seen}`,
    unlabelled: faces.unlabelled,
  };
}

export const harp: Specimen = { shape };
