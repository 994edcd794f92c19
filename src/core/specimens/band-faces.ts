/**
 * The value of every band on the front of a piece: raised digits where there is room, else strokes to count (a wide one is five, a
 * thin one is one), so that nobody holds a print and wonders which band was which.
 */
import { rectangle, Ring } from "../geometry/polygons";
import { HeightPlan } from "../heightplan/plan";
import { FaceBox, textBoxes, TextSize, textWidthMm } from "./digits";

/** How far digits and strokes stand out, mm. */
export const RAISED_MM = 0.5;
/** A band lower than this has no room for digits. */
export const LOWEST_LABELLED_MM = 4;
const LOWEST_STROKES_MM = 0.8;
const NARROWEST_DIGIT_MM = 1.7;
const STROKE_MM = { thin: 0.8, wide: 2, gap: 0.8 };

export interface BandFaces {
  /** Boxes on the face of each band. */
  boxes: FaceBox[][];
  /** Bands that carry nothing (number from 1). */
  unlabelled: number[];
  legend: string;
  /** What is raised at a height, as rings that stick out of the face at `frontY`. */
  raisedAt(zMm: number, index: number, frontY: number): Ring[];
}

/** The faces of all bands. The face spans `widthMm` from `minX`; `edgesMm` are the bands' lower edges. */
export function bandFaces(
  plan: HeightPlan,
  labels: readonly string[],
  edgesMm: readonly number[],
  face: { minX: number; widthMm: number },
): BandFaces {
  const unlabelled: number[] = [];
  let digits = 0;
  let strokes = 0;
  const boxes = plan.bands.map(({ heightMm }, index) => {
    const label = labels[index] ?? "";
    const size = label === "" ? null : digitSize(label, heightMm, face.widthMm);
    if (size) {
      digits++;
      const x = face.minX + (face.widthMm - textWidthMm(label, size)) / 2;
      return textBoxes(label, x, edgesMm[index] + (heightMm - size.heightMm) / 2, size);
    }
    const marks = strokeBoxes(index + 1, edgesMm[index], heightMm, face);
    if (marks.length > 0) strokes++;
    else unlabelled.push(index + 1);
    return marks;
  });
  return {
    boxes,
    unlabelled,
    legend: sayLegend(digits, strokes, unlabelled.length),
    raisedAt: (zMm, index, frontY) =>
      boxes[index]
        .filter(({ minZ, maxZ }) => zMm > minZ && zMm <= maxZ)
        .map(({ minX, maxX }) => rectangle(minX, frontY - RAISED_MM, maxX, frontY + 0.2)),
  };
}

/** The largest digits that fit; null if they would not be legible. */
function digitSize(label: string, bandHeightMm: number, widthMm: number): TextSize | null {
  if (bandHeightMm < LOWEST_LABELLED_MM) return null;
  const heightMm = Math.min(5, bandHeightMm - 1.8);
  for (let digitMm = Math.min(2.6, heightMm * 0.55); ; digitMm -= 0.1) {
    const size = { heightMm, widthMm: digitMm, strokeMm: Math.min(0.8, heightMm * 0.18), gapMm: 0.7 };
    if (textWidthMm(label, size) <= widthMm) return size;
    if (digitMm - 0.1 < NARROWEST_DIGIT_MM) break;
  }
  // Two tenths of play are not worth the strokes: low bands start with narrower digits.
  const size = {
    heightMm,
    widthMm: Math.min(NARROWEST_DIGIT_MM, heightMm * 0.55),
    strokeMm: heightMm * 0.16,
    gapMm: 0.6,
  };
  return textWidthMm(label, size) <= widthMm ? size : null;
}

function strokeBoxes(
  number: number,
  floorMm: number,
  heightMm: number,
  face: { minX: number; widthMm: number },
): FaceBox[] {
  if (heightMm < LOWEST_STROKES_MM) return [];
  const fives = Math.floor(number / 5);
  const widths = [...Array<number>(fives).fill(STROKE_MM.wide), ...Array<number>(number % 5).fill(STROKE_MM.thin)];
  const whole = widths.reduce((sum, width) => sum + width + STROKE_MM.gap, -STROKE_MM.gap);
  if (whole > face.widthMm) return [];
  const margin = Math.min(0.4, heightMm * 0.25);
  let x = face.minX + (face.widthMm - whole) / 2;
  return widths.map((width) => {
    const box = { minX: x, maxX: x + width, minZ: floorMm + margin, maxZ: floorMm + heightMm - margin };
    x += width + STROKE_MM.gap;
    return box;
  });
}

function sayLegend(digits: number, strokes: number, nothing: number): string {
  const said: string[] = [];
  if (digits > 0) said.push("The value of each band is raised on the front.");
  if (strokes > 0)
    said.push("Strokes on the front count the bands from the bottom: a wide one is five, a thin one is one.");
  if (nothing > 0) said.push("Bands without a mark are counted from the base.");
  return said.join(" ");
}
