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
export const LOWEST_LABELLED_MM = 3.5;
/** Below and above digits together, at least, mm. */
const LEAST_MARGINS_MM = 0.9;
const LOWEST_STROKES_MM = 0.8;
/** What a stroke must measure to be laid at all, and the gap between two to be seen, in bead widths. */
const STROKE_BEADS = 1.25;
const GAP_BEADS = 1.4;
/** Height of the hollows of a digit, mm: layers are thin, so little is enough. */
const HOLLOW_MM = 0.5;
const THIN_STROKE_MM = 0.8;
const WIDE_STROKE = 2.5;
/** A post grows by no more than this for its digits. */
const MOST_WIDENED_MM = 1.5;

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
  face: { minX: number; widthMm: number; beadWidthMm: number },
): BandFaces {
  const unlabelled: number[] = [];
  let digits = 0;
  let strokes = 0;
  const boxes = plan.bands.map(({ heightMm }, index) => {
    const label = labels[index] ?? "";
    const size = label === "" ? null : digitSize(label, heightMm, face);
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
function digitSize(
  label: string,
  bandHeightMm: number,
  { widthMm, beadWidthMm }: { widthMm: number; beadWidthMm: number },
): TextSize | null {
  if (bandHeightMm < LOWEST_LABELLED_MM) return null;
  const least = beadWidthMm * STROKE_BEADS;
  // Wide beads need all the height there is.
  const roomy = bandHeightMm - 1.2;
  const heightMm = Math.min(5, roomy >= 3 * least + 2 * HOLLOW_MM ? roomy : bandHeightMm - LEAST_MARGINS_MM);
  const strokeMm = Math.max(least, Math.min(0.8, heightMm * 0.18));
  // Three strokes and two gaps one above the other, two and one side by side, or a digit is a lump.
  if (heightMm < 3 * strokeMm + 2 * HOLLOW_MM) return null;
  const narrowest = 2 * strokeMm + beadWidthMm * GAP_BEADS;
  for (const gapMm of [Math.max(0.7, beadWidthMm * GAP_BEADS), beadWidthMm * GAP_BEADS]) {
    for (let digitMm = Math.max(narrowest, Math.min(2.6, heightMm * 0.55)); ; digitMm -= 0.1) {
      const size = { heightMm, widthMm: Math.max(narrowest, digitMm), strokeMm, gapMm };
      if (textWidthMm(label, size) <= widthMm) return size;
      if (digitMm <= narrowest) break;
    }
  }
  return null;
}

function strokeBoxes(
  number: number,
  floorMm: number,
  heightMm: number,
  face: { minX: number; widthMm: number; beadWidthMm: number },
): FaceBox[] {
  if (heightMm < LOWEST_STROKES_MM) return [];
  const fives = Math.floor(number / 5);
  const thin = Math.max(THIN_STROKE_MM, face.beadWidthMm * STROKE_BEADS);
  const gap = Math.max(THIN_STROKE_MM, face.beadWidthMm * GAP_BEADS);
  const wide = Array<number>(fives).fill(thin * WIDE_STROKE);
  const narrow = Array<number>(number % 5).fill(thin);
  const margin = Math.min(0.4, heightMm * 0.25);
  const row = (widths: number[], minZ: number, maxZ: number): FaceBox[] | null => {
    const whole = widths.reduce((sum, width) => sum + width + gap, -gap);
    if (whole > face.widthMm + 1e-6) return null;
    let x = face.minX + (face.widthMm - whole) / 2;
    return widths.map((width) => {
      const box = { minX: x, maxX: x + width, minZ, maxZ };
      x += width + gap;
      return box;
    });
  };
  const [from, to] = [floorMm + margin, floorMm + heightMm - margin];
  const oneRow = row([...wide, ...narrow], from, to);
  if (oneRow) return oneRow;
  // Wide beads: those that count five above those that count one.
  const rowMm = (to - from - HOLLOW_MM) / 2;
  if (wide.length === 0 || narrow.length === 0 || rowMm < LOWEST_STROKES_MM) return [];
  const [upper, lower] = [row(wide, to - rowMm, to), row(narrow, from, from + rowMm)];
  return upper && lower ? [...upper, ...lower] : [];
}

/** The width of a face on which three digits, or four strokes, can be read, mm; at least `usualMm`. */
export function readableFaceMm(beadWidthMm: number, usualMm: number): number {
  const stroke = Math.max(THIN_STROKE_MM, beadWidthMm * STROKE_BEADS);
  const gap = Math.max(THIN_STROKE_MM, beadWidthMm * GAP_BEADS);
  const strokesMm = 4 * stroke + 3 * gap;
  const digitsMm = 3 * (2 * beadWidthMm * STROKE_BEADS + beadWidthMm * GAP_BEADS) + 2 * beadWidthMm * GAP_BEADS;
  // A wide nozzle's digits would need a wide wall: strokes are counted then.
  const wantedMm = digitsMm <= usualMm + MOST_WIDENED_MM ? Math.max(digitsMm, strokesMm) : strokesMm;
  return Math.max(usualMm, Math.ceil(2 * wantedMm) / 2);
}

function sayLegend(digits: number, strokes: number, nothing: number): string {
  const said: string[] = [];
  if (digits > 0) said.push("The value of each band is raised on the front.");
  if (strokes > 0)
    said.push("Strokes on the front count the bands from the bottom: a wide one is five, a thin one is one.");
  if (nothing > 0) said.push("Bands without a mark are counted from the base.");
  return said.join(" ");
}
