/**
 * Turns: a hollow block whose front faces X and whose right side faces Y, each with a raised letter, and teeth of 60° on the back for the
 * sharpest turns. Fifteen millimetres of plain wall lie before each letter, where the corner's own ripples die out, and behind it, where
 * the letter's ghosts show. Walls begin and end at the back left corner, clear of everything that is looked at.
 */
import { offset, rectangle, Ring } from "../geometry/polygons";
import { beadSpacingMm } from "../material/bead";
import { bandFaces, LOWEST_LABELLED_MM, RAISED_MM } from "./band-faces";
import { Specimen, SpecimenRequest, PieceShape } from "./specimen";
import { baseWithArrow, storeyDrawing, storeysOf } from "./storeys";

/** Half of the front, and how far front and teeth lie from the middle, mm. */
const HALF = 27;
const DEEP = 22.5;
/** Plain wall before and behind a letter. */
const CLEAR_MM = 15;
const LETTER_MM = { width: 4.4, height: 4.6, stroke: 0.9 };
const LETTER_STEPS = 9;
const TEETH = 5;
const MARGIN_MM = 1.5;

interface SlopingStroke {
  from: [number, number];
  to: [number, number];
}

/** Strokes in a cell 1 wide and 1 high. */
const letters: Record<"X" | "Y", SlopingStroke[]> = {
  X: [
    { from: [0, 0], to: [1, 1] },
    { from: [1, 0], to: [0, 1] },
  ],
  Y: [
    { from: [0.5, 0], to: [0.5, 0.5] },
    { from: [0.5, 0.5], to: [0, 1] },
    { from: [0.5, 0.5], to: [1, 1] },
  ],
};

/** Where the strokes of a letter cut a height (0–1 in its cell): spans across, mm from the letter's left edge. */
export function letterSpans(letter: "X" | "Y", share: number): [number, number][] {
  return letters[letter]
    .filter(({ from, to }) => share >= from[1] && share <= to[1])
    .map(({ from, to }) => {
      const across = from[0] + ((to[0] - from[0]) * (share - from[1])) / (to[1] - from[1]);
      const middle = across * (LETTER_MM.width - LETTER_MM.stroke) + LETTER_MM.stroke / 2;
      return [middle - LETTER_MM.stroke / 2, middle + LETTER_MM.stroke / 2];
    });
}

/** Letters slope in steps of a few layers: nobody sees them, and layers that are alike are filled once. */
function inSteps(share: number): number {
  return share < 0 || share > 1
    ? share
    : (Math.min(LETTER_STEPS - 1, Math.floor(share * LETTER_STEPS)) + 0.5) / LETTER_STEPS;
}

const TOOTH_PITCH_MM = (2 * HALF) / TEETH;
const TOOTH_MM = (TOOTH_PITCH_MM / 2) * Math.sqrt(3);
const backLeft = { x: -HALF, y: DEEP - TOOTH_MM };

/** The outline, with teeth along the back. */
function outline(): Ring {
  const ring: Ring = [
    { x: -HALF, y: -DEEP },
    { x: HALF, y: -DEEP },
    { x: HALF, y: DEEP - TOOTH_MM },
  ];
  for (let i = 0; i < TEETH; i++) {
    ring.push(
      { x: HALF - (i + 0.5) * TOOTH_PITCH_MM, y: DEEP },
      { x: HALF - (i + 1) * TOOTH_PITCH_MM, y: DEEP - TOOTH_MM },
    );
  }
  return ring;
}

function shape({ plan, labels, beadWidthMm, layerHeightMm }: SpecimenRequest): PieceShape {
  const storeys = storeysOf(plan);
  // Two walls from outside and two from inside, all along the teeth, and no room for anything between them.
  const thick = 4 * beadSpacingMm(beadWidthMm, layerHeightMm);
  const faces = bandFaces(plan, labels, storeys.edgesMm, {
    minX: -HALF + 2 * CLEAR_MM + LETTER_MM.width,
    widthMm: 2 * (HALF - CLEAR_MM) - LETTER_MM.width - 2,
    beadWidthMm,
  });
  const base = baseWithArrow(-HALF - MARGIN_MM, -DEEP - MARGIN_MM, HALF + MARGIN_MM, DEEP + MARGIN_MM);
  const letterX = -HALF + CLEAR_MM;
  const letterY = -DEEP + CLEAR_MM;
  const outside = outline();
  const inside = offset([outside], -thick).map((ring) => [...ring].reverse());
  return {
    heightMm: storeys.heightMm,
    widthMm: 2 * (HALF + MARGIN_MM),
    depthMm: 2 * (DEEP + MARGIN_MM + 3),
    seamNear: backLeft,
    solidAt(zMm) {
      const storey = storeys.at(zMm);
      if (storey === null) return [];
      if (storey === "base") return base;
      const rings = [outside, ...inside, ...faces.raisedAt(zMm, storey.index, -DEEP)];
      if (storey.heightMm >= LOWEST_LABELLED_MM) {
        const height = Math.min(LETTER_MM.height, storey.heightMm - 1);
        const share = inSteps((storey.aboveMm - (storey.heightMm - height) / 2) / height);
        for (const [from, to] of letterSpans("X", share)) {
          rings.push(rectangle(letterX + from, -DEEP - RAISED_MM, letterX + to, -DEEP + 0.2));
        }
        for (const [from, to] of letterSpans("Y", share)) {
          rings.push(rectangle(HALF - 0.2, letterY + from, HALF + RAISED_MM, letterY + to));
        }
      }
      return rings;
    },
    drawing: storeyDrawing(labels),
    legend: `${faces.legend} The front with X is laid along X, the right side with Y along Y; ghosts show to the right of the X and behind the Y; the teeth are on the back.`,
    unlabelled: faces.unlabelled,
  };
}

export const turns: Specimen = { shape };
