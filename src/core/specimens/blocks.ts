/**
 * Blocks: a row of hollow blocks, one a side-by-side value, in front of a plate with the value of every band. Each block has two sharp
 * corners in front, two round ones behind, and a lip over air at the top of every band. Its own value lies before it on the base.
 */
import { rectangle, Ring } from "../geometry/polygons";
import { plainNumber } from "../units";
import { bandFaces, readableFaceMm } from "./band-faces";
import { BLOCK_MM } from "./block-size";
import { flatText } from "./flat-text";
import { PieceShape, Specimen, SpecimenRequest, Spot } from "./specimen";
import { baseWithArrow, storeyDrawing, storeysOf } from "./storeys";

const LEAST_BLOCK_MM = 7;
const ROUND_MM = 2.5;
/** Between two blocks: enough air for strings to show. */
const AIR_MM = 7;
const LEAST_AIR_MM = 4;
/** Behind the first row stands a second where one has no room. */
const ROW_AIR_MM = 12;
const TEXT_MM = 2.6;
const TEXT_ROOM_MM = 4.5;
const PLATE = { depthMm: 3.5, gapMm: 4, usualMm: 12 };
const MARGIN_MM = 2;
/** How far the lip reaches out, and how steeply: half a millimetre a half, 45°. */
const LIP_MM = 1.4;

/** How blocks stand in the room: as few rows as it allows. */
export function blockRows(
  count: number,
  room: { widthMm: number; depthMm: number },
): { rows: number; columns: number; blockMm: number; airMm: number } {
  for (let rows = 1; rows < count; rows++) {
    const columns = Math.ceil(count / rows);
    for (const [blockMm, airMm] of [
      [BLOCK_MM, AIR_MM],
      [LEAST_BLOCK_MM, LEAST_AIR_MM],
    ]) {
      if (columns * blockMm + (columns - 1) * airMm + 2 * MARGIN_MM <= room.widthMm)
        return { rows, columns, blockMm, airMm };
    }
  }
  return { rows: Math.max(1, count), columns: 1, blockMm: LEAST_BLOCK_MM, airMm: LEAST_AIR_MM };
}

/** A square with sharp corners in front and round ones behind, grown at its back by so much. */
function block(x: number, y: number, sizeMm: number, lipMm: number): Ring {
  const half = sizeMm / 2;
  const back = y + half + lipMm;
  const round = Array.from({ length: 7 }, (_, i) => (i / 6) * (Math.PI / 2));
  return [
    { x: x - half, y: y - half },
    { x: x + half, y: y - half },
    ...round.map((angle) => ({
      x: x + half - ROUND_MM + ROUND_MM * Math.cos(angle),
      y: back - ROUND_MM + ROUND_MM * Math.sin(angle),
    })),
    ...round.map((angle) => ({
      x: x - half + ROUND_MM - ROUND_MM * Math.sin(angle),
      y: back - ROUND_MM + ROUND_MM * Math.cos(angle),
    })),
  ];
}

function shape({ plan, labels, room, beadWidthMm, layerHeightMm }: SpecimenRequest): PieceShape {
  const storeys = storeysOf(plan);
  const values = plan.sideBySide?.values ?? [];
  const { rows, columns, blockMm, airMm } = blockRows(values.length, room);
  const plateMm = readableFaceMm(beadWidthMm, PLATE.usualMm);
  const widthMm = Math.max(plateMm, columns * blockMm + (columns - 1) * airMm);
  const rowMm = blockMm + ROW_AIR_MM;
  const depthMm = PLATE.depthMm + PLATE.gapMm + TEXT_ROOM_MM + rows * rowMm - (ROW_AIR_MM - LIP_MM);
  const front = -depthMm / 2;
  const firstY = front + PLATE.depthMm + PLATE.gapMm + TEXT_ROOM_MM + blockMm / 2;
  const spots: Spot[] = values.map((value, i) => {
    const row = Math.floor(i / columns);
    // To and fro, so that the way to the next block is short.
    const column = row % 2 === 0 ? i % columns : columns - 1 - (i % columns);
    return {
      x: -widthMm / 2 + blockMm / 2 + column * (blockMm + airMm),
      y: firstY + row * rowMm,
      label: plainNumber(value, 3),
    };
  });
  const faces = bandFaces(plan, labels, storeys.edgesMm, {
    minX: -plateMm / 2 + 0.5,
    widthMm: plateMm - 1,
    beadWidthMm,
  });
  const plate = rectangle(-plateMm / 2, front, plateMm / 2, front + PLATE.depthMm);
  const foot: Ring[] = baseWithArrow(
    -widthMm / 2 - MARGIN_MM,
    front - 1.5,
    widthMm / 2 + MARGIN_MM,
    depthMm / 2 + MARGIN_MM,
    0,
  );
  /** The lip grows by as much as it rises, and ends with its band. */
  const lipAt = ({ heightMm, aboveMm }: { heightMm: number; aboveMm: number }) =>
    Math.max(0, Math.min(LIP_MM, heightMm / 2) - Math.max(0, heightMm - aboveMm));
  const [baseTop] = storeys.edgesMm;
  const textMm = Math.min(TEXT_MM, blockMm * 0.28);
  const texts = spots.flatMap(({ x, y, label }, i) =>
    flatText(label, x - (label.length * textMm * 0.8) / 2, y - blockMm / 2 - textMm - 1.2, textMm, beadWidthMm, i),
  );
  return {
    heightMm: storeys.heightMm,
    widthMm: widthMm + 2 * MARGIN_MM,
    depthMm: depthMm + 2 * (MARGIN_MM + 3),
    solidAt(zMm) {
      const storey = storeys.at(zMm);
      if (storey === null) return [];
      if (storey === "base") return foot;
      const lip = lipAt(storey);
      return [
        plate,
        ...faces.raisedAt(zMm, storey.index, front),
        ...spots.map(({ x, y }) => block(x, y, blockMm, lip)),
      ];
    },
    tracksAt: (zMm) => (zMm > baseTop + 1e-9 && zMm < baseTop + 2 * layerHeightMm - 1e-9 ? texts : []),
    spots,
    drawing: [
      ...storeyDrawing(labels),
      "",
      `${values.length} blocks stand behind the plate${rows > 1 ? `, in ${rows} rows, to and fro from the front left` : ", from left to right"}; the value of each lies before it`,
    ],
    legend: `${faces.legend} The number before each block is its own value. A string belongs to the block it comes from.`,
    unlabelled: faces.unlabelled,
  };
}

export const blocks: Specimen = { shape };
