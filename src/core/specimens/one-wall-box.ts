/**
 * One-wall box: four faces of a single bead to measure with a calliper, stairs beside it whose every step is the top of one band, and a
 * plate in front with the values. The nozzle goes round the box to its seam, never across a face that is measured.
 */
import { rectangle } from "../geometry/polygons";
import { PLATE, plateBefore } from "./plate-before";
import { Specimen, SpecimenRequest, PieceShape } from "./specimen";
import { baseWithArrow, storeyDrawing, storeysOf } from "./storeys";

/** Length of a face along the middle of its bead, mm. */
export const FACE_MM = 30;
const STAIRS = { widthMm: 9, gapMm: 5 };
/** How far from the box the nozzle passes on its way round. */
const ROUND_MM = 3;
const MARGIN_MM = 2;

function shape({ plan, labels, beadWidthMm }: SpecimenRequest): PieceShape {
  const storeys = storeysOf(plan);
  const half = FACE_MM / 2;
  const shift = (PLATE.depthMm + PLATE.gapMm) / 2;
  const front = -half + shift;
  const { plate, frontMm: plateFront, faces } = plateBefore(front, { plan, labels, beadWidthMm }, storeys.edgesMm);
  const stairsLeft = half + STAIRS.gapMm;
  const stairsRight = stairsLeft + STAIRS.widthMm;
  const stepMm = FACE_MM / plan.bands.length;
  const base = baseWithArrow(
    -half - MARGIN_MM,
    plateFront - MARGIN_MM,
    stairsRight + MARGIN_MM,
    half + shift + MARGIN_MM,
    0,
  );
  const wall = {
    // From the back left, where the seam spoils no measuring.
    points: [
      { x: -half, y: half + shift },
      { x: -half, y: front },
      { x: half, y: front },
      { x: half, y: half + shift },
      { x: -half, y: half + shift },
    ],
    widthMm: beadWidthMm,
    via: [
      { x: -half - ROUND_MM, y: front - ROUND_MM },
      { x: -half - ROUND_MM, y: half + shift },
    ],
  };
  return {
    heightMm: storeys.heightMm,
    widthMm: 2 * (stairsRight + MARGIN_MM),
    depthMm: 2 * (half + shift + MARGIN_MM + 3),
    solidAt(zMm) {
      const storey = storeys.at(zMm);
      if (storey === null) return [];
      if (storey === "base") return base;
      const step = rectangle(stairsLeft, front + storey.index * stepMm, stairsRight, half + shift);
      return [step, plate, ...faces.raisedAt(zMm, storey.index, plateFront)];
    },
    tracksAt: (zMm) => (zMm > storeys.edgesMm[0] && zMm <= storeys.heightMm ? [wall] : []),
    drawing: storeyDrawing(labels),
    legend: `${faces.legend} The box behind the plate has one wall, asked for ${beadWidthMm} mm thick. Each step of the stairs is the top of one band, the lowest in front.`,
    unlabelled: faces.unlabelled,
  };
}

export const oneWallBox: Specimen = { shape };
