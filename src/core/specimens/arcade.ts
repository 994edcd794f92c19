/**
 * The arcade: one storey a band. Every storey has two separated uprights (strings), a 30 mm bridge across the front and a
 * 15 mm bridge along the left side, overhangs at three angles, a thin cone (bond), flat walls (surface) and its value in
 * raised digits on the front. It stands on a base with an arrow that points to the front.
 *
 *      back    C            B        C: rear post, 10 × 8
 *              |            |        A–C: the 15 mm bridge
 *              | 15         | ◣      B: wall, 8 × 20, overhangs on its right
 *      front   A --- 30 --- B ◣      A–B: the 30 mm bridge, the cone stands under it
 */
import { circle, rectangle, Ring } from "../geometry/polygons";
import { bandFaces } from "./band-faces";
import { Specimen, SpecimenRequest, PieceShape } from "./specimen";
import { baseWithArrow, Storey, storeysOf } from "./storeys";

const LONG_SPAN_MM = 30;
const SHORT_SPAN_MM = 15;
const POST_WIDTH_MM = 10;
const POST_DEPTH_MM = 8;
const WALL_WIDTH_MM = 8;
const WALL_DEPTH_MM = 20;
const DECK_MM = 1.2;
/** Degrees from upright, front to back. */
export const OVERHANG_DEGREES = [30, 45, 60];
const OVERHANG_REACH_MM = 3;
const FIN_DEPTH_MM = 5;
const FIN_GAP_MM = 1.5;
const BASE_MARGIN_MM = 1.5;
const CONE_FOOT_RADIUS_MM = 2.2;
const CONE_TIP_RADIUS_MM = 0.6;

const innerWidth = POST_WIDTH_MM + LONG_SPAN_MM + WALL_WIDTH_MM + OVERHANG_REACH_MM;
const innerDepth = POST_DEPTH_MM + SHORT_SPAN_MM + POST_DEPTH_MM;
const left = -innerWidth / 2;
const front = -innerDepth / 2;
const postRight = left + POST_WIDTH_MM;
const wallLeft = postRight + LONG_SPAN_MM;
const wallRight = wallLeft + WALL_WIDTH_MM;
const rearFront = front + POST_DEPTH_MM + SHORT_SPAN_MM;

const postA = rectangle(left, front, postRight, front + POST_DEPTH_MM);
const postC = rectangle(left, rearFront, postRight, rearFront + POST_DEPTH_MM);
const wallB = rectangle(wallLeft, front, wallRight, front + WALL_DEPTH_MM);
// Decks reach into the posts by half a millimetre, so that the union is one piece.
const longDeck = rectangle(postRight - 0.5, front, wallLeft + 0.5, front + POST_DEPTH_MM);
const shortDeck = rectangle(left, front + POST_DEPTH_MM - 0.5, postRight, rearFront + 0.5);

/** How far the fin of `degrees` reaches out at `heightMm` above the storey's floor, mm. */
function finReachMm(degrees: number, heightMm: number, bandHeightMm: number): number {
  const top = bandHeightMm - DECK_MM;
  const rise = Math.min(OVERHANG_REACH_MM / Math.tan((degrees * Math.PI) / 180), top - 0.4);
  const reach = (heightMm - (top - rise)) * Math.tan((degrees * Math.PI) / 180);
  return Math.min(OVERHANG_REACH_MM, Math.max(0, reach));
}

function shape({ plan, labels }: SpecimenRequest): PieceShape {
  const storeys = storeysOf(plan);
  const faces = bandFaces(plan, labels, storeys.edgesMm, { minX: left, widthMm: POST_WIDTH_MM });
  const base = baseWithArrow(
    left - BASE_MARGIN_MM,
    front - BASE_MARGIN_MM,
    wallRight + OVERHANG_REACH_MM + BASE_MARGIN_MM,
    front + innerDepth + BASE_MARGIN_MM,
    0,
  );

  function storeyAt({ index, heightMm, aboveMm }: Storey, z: number): Ring[] {
    const rings: Ring[] = [postA, postC, wallB];
    const deck = Math.min(DECK_MM, heightMm / 2);
    if (aboveMm > heightMm - deck) {
      rings.push(longDeck, shortDeck);
    } else {
      const coneHeight = heightMm - deck - 1;
      if (coneHeight > 1 && aboveMm < coneHeight) {
        const radius = CONE_FOOT_RADIUS_MM + (CONE_TIP_RADIUS_MM - CONE_FOOT_RADIUS_MM) * (aboveMm / coneHeight);
        rings.push(circle((postRight + wallLeft) / 2, front + POST_DEPTH_MM / 2, radius));
      }
    }
    OVERHANG_DEGREES.forEach((degrees, fin) => {
      const reach = finReachMm(degrees, aboveMm, heightMm);
      if (reach < 0.02) return;
      const y = front + 1 + fin * (FIN_DEPTH_MM + FIN_GAP_MM);
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
    lines.push("  |      |         /\\         |  |");
  }
  lines.push("  '==============\\/===============   base; the arrow points to the front");
  return lines;
}

export const arcade: Specimen = { shape };
