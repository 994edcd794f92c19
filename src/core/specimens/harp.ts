/**
 * The harp: a wall on the left and a row of posts that step away from it, so that every storey carries spans from 10 to 60 mm side by
 * side. The strands run straight from the wall to the posts; the underside is there to be looked at.
 *
 *      ==================o  60     back
 *      ===============o     50
 *      ============o        40
 *      =========o           30
 *      ======o              20
 *      ===o                 10     front, with the values on the wall's end
 */
import { rectangle, Ring } from "../geometry/polygons";
import { bandFaces } from "./band-faces";
import { deckFromMm } from "./harp-deck";
import { Specimen, SpecimenRequest, PieceShape } from "./specimen";
import { baseWithArrow, storeyDrawing, storeysOf } from "./storeys";

export const SPANS_MM = [10, 20, 30, 40, 50, 60];
/** The face with the values stands out to the left of the wall, so that the wall need not be as wide as they are. */
const WALL_MM = 6;
const FACE = { widthMm: 14, depthMm: 4 };
const POST_MM = 6;
const DECK_WIDTH_MM = 5;
const PITCH_MM = 8;
const MARGIN_MM = 1.5;
/** The spans that fit on the bed. */
export function spansFor(room: { widthMm: number }): number[] {
  const fits = SPANS_MM.filter((span) => FACE.widthMm + span + POST_MM + 2 * MARGIN_MM <= room.widthMm);
  return fits.length > 0 ? fits : SPANS_MM.slice(0, 1);
}

function shape({ plan, labels, layerHeightMm, room }: SpecimenRequest): PieceShape {
  const storeys = storeysOf(plan);
  const spans = spansFor(room);
  const widthMm = FACE.widthMm + spans[spans.length - 1] + POST_MM;
  const depthMm = spans.length * PITCH_MM - (PITCH_MM - POST_MM);
  const left = -widthMm / 2;
  const front = -depthMm / 2;
  const wallRight = left + FACE.widthMm;
  const faces = bandFaces(plan, labels, storeys.edgesMm, { minX: left + 0.5, widthMm: FACE.widthMm - 1 });
  const rows = spans.map((span, i) => ({ span, y: front + i * PITCH_MM }));
  const standing: Ring[] = [
    rectangle(left, front, wallRight, front + FACE.depthMm),
    rectangle(wallRight - WALL_MM, front, wallRight, front + depthMm),
    ...rows.map(({ span, y }) => rectangle(wallRight + span, y, wallRight + span + POST_MM, y + POST_MM)),
  ];
  const inset = (POST_MM - DECK_WIDTH_MM) / 2;
  const decks = rows.map(({ span, y }) =>
    rectangle(wallRight - 0.5, y + inset, wallRight + span + 0.5, y + inset + DECK_WIDTH_MM),
  );
  const base = baseWithArrow(
    left - MARGIN_MM,
    front - MARGIN_MM,
    left + widthMm + MARGIN_MM,
    front + depthMm + MARGIN_MM,
    0,
  );
  return {
    heightMm: storeys.heightMm,
    widthMm: widthMm + 2 * MARGIN_MM,
    depthMm: depthMm + 2 * MARGIN_MM + 6,
    solidAt(zMm) {
      const storey = storeys.at(zMm);
      if (storey === null) return [];
      if (storey === "base") return base;
      const rings = [...standing, ...faces.raisedAt(zMm, storey.index, front)];
      if (zMm > deckFromMm(storey.floorMm + storey.heightMm, layerHeightMm)) rings.push(...decks);
      return rings;
    },
    drawing: [
      ...storeyDrawing(labels),
      `  spans from front to back: ${spans.join(", ")} mm, from the wall to the posts`,
    ],
    legend: `${faces.legend} Spans grow from front to back: ${spans.join(", ")} mm.`,
    unlabelled: faces.unlabelled,
  };
}

export const harp: Specimen = { shape };
