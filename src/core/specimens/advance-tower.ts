/**
 * Advance tower: two loops whose long sides go slow, fast, slow, so that every change of speed stands at the same spot over the whole
 * height, with corners between them; a plate in front carries the values.
 */
import { beadSpacingMm } from "../material/bead";
import { Track } from "../printing/track";
import { numberOption } from "../options/option";
import { clamp } from "../units";
import { PLATE, plateBefore } from "./plate-before";
import { Specimen, SpecimenRequest, PieceShape } from "./specimen";
import { baseWithArrow, storeyDrawing, storeysOf } from "./storeys";

const LENGTH_MM = 72;
const SHORTEST_MM = 36;
const DEPTH_MM = 24;
/** The nozzle goes round the loops to their seam, so that nothing crosses a front that is looked at. */
const ROUND_MM = 3;
const MARGIN_MM = 2;

function loop(half: number, front: number, back: number, widthMm: number, slowMmS: number, fastMmS: number): Track {
  const third = half / 3;
  return {
    points: [
      { x: -half, y: back },
      { x: -half, y: front },
      { x: -third, y: front },
      { x: third, y: front },
      { x: half, y: front },
      { x: half, y: back },
      { x: third, y: back },
      { x: -third, y: back },
      { x: -half, y: back },
    ],
    widthMm,
    speedsMmS: [fastMmS, slowMmS, fastMmS, slowMmS, fastMmS, slowMmS, fastMmS, slowMmS],
  };
}

function shape({ plan, labels, options, beadWidthMm, layerHeightMm, room }: SpecimenRequest): PieceShape {
  const storeys = storeysOf(plan);
  const half = clamp(room.widthMm - 2 * MARGIN_MM, SHORTEST_MM, LENGTH_MM) / 2;
  const shift = (PLATE.depthMm + PLATE.gapMm) / 2;
  const front = -DEPTH_MM / 2 + shift;
  const back = DEPTH_MM / 2 + shift;
  const { plate, frontMm: plateFront, faces } = plateBefore(front, { plan, labels, beadWidthMm }, storeys.edgesMm);
  const slow = numberOption(options, "slowMmS");
  const fast = numberOption(options, "fastMmS");
  const inset = beadSpacingMm(beadWidthMm, layerHeightMm);
  const loops = [
    loop(half - inset, front + inset, back - inset, beadWidthMm, slow, fast),
    loop(half, front, back, beadWidthMm, slow, fast),
  ];
  const round = [
    { x: -half - ROUND_MM, y: front - ROUND_MM },
    { x: -half - ROUND_MM, y: back },
  ];
  loops[0].via = round;
  loops[1].via = round;
  const base = baseWithArrow(-half - MARGIN_MM, plateFront - MARGIN_MM, half + MARGIN_MM, back + MARGIN_MM);
  return {
    heightMm: storeys.heightMm,
    widthMm: 2 * (half + MARGIN_MM),
    depthMm: 2 * (back + MARGIN_MM + 3),
    solidAt(zMm) {
      const storey = storeys.at(zMm);
      if (storey === null) return [];
      return storey === "base" ? base : [plate, ...faces.raisedAt(zMm, storey.index, plateFront)];
    },
    tracksAt: (zMm) => (zMm > storeys.edgesMm[0] && zMm <= storeys.heightMm ? loops : []),
    drawing: storeyDrawing(labels),
    legend: `${faces.legend} The long walls go ${slow}, ${fast}, ${slow} mm/s, a third each.`,
    unlabelled: faces.unlabelled,
  };
}

export const advanceTower: Specimen = { shape };
