/**
 * The arcade: one storey a band. Every storey has two separated uprights (strings), a 30 mm bridge across the front and a
 * 15 mm bridge along the left side, overhangs at three angles, a thin pin to press on (bond), flat walls (surface) and its value in
 * raised digits on the front. It stands on a base with an arrow that points to the front.
 *
 *      back    C            i        C: rear post, i: the pin, held by a narrow deck at every storey's top
 *              |            |
 *              | 15         B ◣      B: wall, overhangs on its right
 *      front   A --- 30 --- B ◣      A: post with the values; A–B: the 30 mm bridge, A–C: the 15 mm bridge
 *
 * Nothing stands under the bridges: what sags is seen. The pin is two walls thick and stands free between two decks, so that it breaks
 * where layers do not bond, and nowhere else.
 */
import { rectangle, Ring } from "../geometry/polygons";
import { bandFaces, readableFaceMm } from "./band-faces";
import { Specimen, SpecimenRequest, PieceShape } from "./specimen";
import { baseWithArrow, Storey, storeysOf } from "./storeys";

const LONG_SPAN_MM = 30;
const SHORT_SPAN_MM = 15;
/** Wider where wide beads want more room for the value. */
const POST_WIDTH_MM = 9;
const POST_DEPTH_MM = 4.8;
/** The rear post only holds a bridge. */
const REAR_MM = 4.2;
const WALL_WIDTH_MM = 4;
const WALL_DEPTH_MM = 12.5;
/** Decks leave the corner between them free: strands of both must reach into the post. */
const DECK_WIDTH_MM = 3.4;
const PIN_MM = 2.6;
const PIN_GAP_MM = 5;
/** A deck is so many layers: one over air, one on it, one to look at. */
const DECK_LAYERS = 3;
/** Degrees from upright, front to back. */
export const OVERHANG_DEGREES = [30, 45, 60];
const OVERHANG_REACH_MM = 2.5;
const FIN_DEPTH_MM = 3.2;
const FIN_GAP_MM = 1;
const FIN_FROM_MM = 0.5;
const BASE_MARGIN_MM = 1.5;

/** Everything that stands, for a post of this width. */
function layoutOf(postWidthMm: number) {
  const innerWidth = postWidthMm + LONG_SPAN_MM + WALL_WIDTH_MM + OVERHANG_REACH_MM;
  const innerDepth = POST_DEPTH_MM + SHORT_SPAN_MM + REAR_MM;
  const left = -innerWidth / 2;
  const front = -innerDepth / 2;
  const postRight = left + postWidthMm;
  const wallLeft = postRight + LONG_SPAN_MM;
  const wallRight = wallLeft + WALL_WIDTH_MM;
  const wallBack = front + WALL_DEPTH_MM;
  const rearFront = front + POST_DEPTH_MM + SHORT_SPAN_MM;
  const pinLeft = (wallLeft + wallRight - PIN_MM) / 2;
  const pinFront = wallBack + PIN_GAP_MM;
  return {
    ...{ innerWidth, innerDepth, left, front, postRight, wallLeft, wallRight, rearFront, pinFront },
    upright: [
      rectangle(left, front, postRight, front + POST_DEPTH_MM),
      rectangle(left, rearFront, left + REAR_MM, rearFront + REAR_MM),
      rectangle(wallLeft, front, wallRight, wallBack),
      rectangle(pinLeft, pinFront, pinLeft + PIN_MM, pinFront + PIN_MM),
    ],
    // Decks reach into what holds them by half a millimetre, so that the union is one piece.
    decks: [
      rectangle(postRight - 0.5, front, wallLeft + 0.5, front + DECK_WIDTH_MM),
      rectangle(left, front + POST_DEPTH_MM - 0.5, left + DECK_WIDTH_MM, rearFront + 0.5),
      rectangle(pinLeft, wallBack - 0.5, pinLeft + PIN_MM, pinFront + 0.5),
    ],
  };
}

/** How far the fin of `degrees` reaches out at `heightMm` above the storey's floor, mm. */
function finReachMm(degrees: number, heightMm: number, bandHeightMm: number, deckMm: number): number {
  const top = bandHeightMm - deckMm;
  const rise = Math.min(OVERHANG_REACH_MM / Math.tan((degrees * Math.PI) / 180), top - 0.4);
  const reach = (heightMm - (top - rise)) * Math.tan((degrees * Math.PI) / 180);
  return Math.min(OVERHANG_REACH_MM, Math.max(0, reach));
}

function shape({ plan, labels, beadWidthMm, layerHeightMm }: SpecimenRequest): PieceShape {
  const storeys = storeysOf(plan);
  const postWidthMm = readableFaceMm(beadWidthMm, POST_WIDTH_MM);
  const { innerWidth, innerDepth, left, front, postRight, wallLeft, wallRight, rearFront, pinFront, upright, decks } =
    layoutOf(postWidthMm);
  const faces = bandFaces(plan, labels, storeys.edgesMm, { minX: left, widthMm: postWidthMm, beadWidthMm });
  const grown = (minX: number, minY: number, maxX: number, maxY: number) =>
    rectangle(minX - BASE_MARGIN_MM, minY - BASE_MARGIN_MM, maxX + BASE_MARGIN_MM, maxY + BASE_MARGIN_MM);
  // Strips from post to post instead of a plate: a third of its area, and it lies flat.
  const base = [
    ...baseWithArrow(
      left - BASE_MARGIN_MM,
      front - BASE_MARGIN_MM,
      wallRight + BASE_MARGIN_MM,
      front + DECK_WIDTH_MM + BASE_MARGIN_MM,
      0,
    ),
    grown(left, front, postRight, front + POST_DEPTH_MM),
    grown(left, front, left + REAR_MM, rearFront + REAR_MM),
    grown(wallLeft, front, wallRight, pinFront + PIN_MM),
  ];

  function storeyAt({ index, heightMm, aboveMm }: Storey, z: number): Ring[] {
    const rings: Ring[] = [...upright];
    const deckMm = Math.min(DECK_LAYERS * layerHeightMm, heightMm / 2);
    if (aboveMm > heightMm - deckMm) rings.push(...decks);
    OVERHANG_DEGREES.forEach((degrees, fin) => {
      const reach = finReachMm(degrees, aboveMm, heightMm, deckMm);
      if (reach < 0.02) return;
      const y = front + FIN_FROM_MM + fin * (FIN_DEPTH_MM + FIN_GAP_MM);
      rings.push(rectangle(wallRight - 0.5, y, wallRight + reach, y + FIN_DEPTH_MM));
    });
    return [...rings, ...faces.raisedAt(z, index, front)];
  }

  return {
    heightMm: storeys.heightMm,
    widthMm: innerWidth + 2 * BASE_MARGIN_MM,
    depthMm: innerDepth + 2 * BASE_MARGIN_MM + 3,
    solidAt(zMm) {
      const storey = storeys.at(zMm);
      if (storey === null) return [];
      return storey === "base" ? base : storeyAt(storey, zMm);
    },
    drawing: drawing(labels),
    legend: faces.legend,
    unlabelled: faces.unlabelled,
  };
}

/** The storeys in text, top first: values on the left post, where they stand on the piece. */
function drawing(labels: string[]): string[] {
  const lines = ["  .------------------------------."];
  for (let index = labels.length - 1; index >= 0; index--) {
    lines.push(`  |${labels[index].padStart(5)} |====================|  |\\   band ${index + 1}`);
    lines.push("  |      |                    |  |");
  }
  lines.push("  '==============\\/===============   base; the arrow points to the front");
  return lines;
}

export const arcade: Specimen = { shape };
