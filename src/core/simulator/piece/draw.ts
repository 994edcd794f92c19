/** Draws a simulated piece as it would look, front and back. */
import { frontView } from "../../printing/front-view";
import type { Slice, Section } from "../../printing/slices";
import type { CriterionKey } from "../../reading";
import type { Side } from "../../reading/photo";
import type { Unit } from "../../trials/run";
import { Noise } from "../noise";
import { defects } from "./defects";
import { Face, facesOf, Part, partOf } from "./part";
import { Pen, Tone } from "./pen";
import type { PieceUnit, SimulatedPiece } from "./piece";

interface Drawn {
  piece: SimulatedPiece;
  units: readonly Unit[];
  slices: readonly Slice[];
  layerMm: number;
  /** `#B8A58F` */
  colourHex: string;
  side: Side;
  /** How high the piece came; null if it is whole. */
  reachedMm: number | null;
}

/** A picture in millimetres: an SVG whose bottom edge is the bed, with what is needed to lay it on a height axis. */
export interface PiecePicture {
  svg: string;
  widthMm: number;
  heightMm: number;
}

const MARGIN_MM = 3;
/** A swatch of a value that stands beside others, mm. */
/** A cell of a field, mm, and where in it strings hang. */
const FIELD_MM = { post: 4, air: 10, row: 7, heights: [0.3, 0.7] };
const SWATCH_MM = { wide: 60, high: 4, label: 18 };

/** The piece of a run whose values stand one above the other. */
export function drawPiece({ piece, units, slices, layerMm, colourHex, side, reachedMm }: Drawn): PiecePicture {
  const seen = side === "front" ? slices : slices.map(turnedRound);
  const top = reachedMm ?? Infinity;
  const faces = facesOf(frontView(seen))
    .filter(({ fromZ }) => fromZ < top)
    .map((face) => ({ ...face, toZ: Math.min(face.toZ, top) }));
  const topMm = Math.max(...faces.map(({ toZ }) => toZ));
  const left = Math.min(...faces.map(({ fromX }) => fromX)) - MARGIN_MM;
  const right = Math.max(...faces.map(({ toX }) => toX)) + MARGIN_MM;
  const pen = new Pen(tones(colourHex), topMm, layerMm, new Noise(side === "front" ? 11 : 29));
  // Far faces first, so that near ones stand before them.
  for (const face of [...faces].sort((a, b) => b.depthMm - a.depthMm)) paintFace(pen, face, colourHex);
  units.forEach((unit, i) => {
    if (unit.fromMm >= top) return;
    drawDefects(pen, partOf(faces, unit.fromMm, Math.min(unit.toMm, top), piece.rippleMm[i]), piece.units[i]);
  });
  return picture(pen, left, right, topMm, layerMm);
}

/** A field of two settings, its posts unrolled into a row: each value stands left of the air it is read from, the bed's row at the bottom. */
export function drawField({
  piece,
  units,
  layerMm,
  colourHex,
}: Omit<Drawn, "slices" | "side" | "reachedMm">): PiecePicture {
  const columns = 1 + Math.max(...units.map(({ column = 0 }) => column));
  const topMm = (units.length / columns) * FIELD_MM.row;
  const pitch = FIELD_MM.post + FIELD_MM.air;
  const pen = new Pen(tones(colourHex), topMm, layerMm, new Noise(23));
  for (let i = 0; i <= columns; i++) {
    const post = { fromX: i * pitch, toX: i * pitch + FIELD_MM.post, fromZ: 0, toZ: topMm };
    paintFace(pen, { ...post, depthMm: 0, raised: false }, colourHex);
  }
  units.forEach((unit, i) => {
    const column = unit.column ?? 0;
    const fromMm = Math.floor(i / columns) * FIELD_MM.row;
    const [fromX, toX] = [column * pitch + FIELD_MM.post, (column + 1) * pitch];
    const gaps = FIELD_MM.heights.map((share) => ({ fromX, toX, z: fromMm + share * FIELD_MM.row }));
    const edges: Part["edges"] = [{ x: fromX, side: 1 }];
    const toMm = fromMm + FIELD_MM.row;
    const part: Part = { fromMm, toMm, faces: [], gaps, spans: [], lips: [], edges, rippleMm: piece.rippleMm[i] };
    drawDefects(pen, part, piece.units[i]);
  });
  return picture(pen, -MARGIN_MM, columns * pitch + FIELD_MM.post + MARGIN_MM, topMm, layerMm);
}

/** Values that stand side by side, each as a swatch with its value, the first at the bottom. */
export function drawSwatches({
  piece,
  units,
  layerMm,
  colourHex,
}: Omit<Drawn, "slices" | "side" | "reachedMm">): PiecePicture {
  const step = SWATCH_MM.high * 2;
  const topMm = units.length * step;
  const pen = new Pen(tones(colourHex), topMm, layerMm, new Noise(17));
  units.forEach((unit, i) => {
    const fromZ = i * step + SWATCH_MM.high / 2;
    const thick = SWATCH_MM.high * (unit.wantedMm ? Math.min(1.4, piece.units[i].lengthMm! / unit.wantedMm) : 0.6);
    const toZ = fromZ + thick;
    const face: Face = { fromX: 0, toX: SWATCH_MM.wide, fromZ, toZ, depthMm: 0, raised: false };
    paintFace(pen, face, colourHex);
    pen.text({ x: -2, z: fromZ + 0.6 }, 2.6, unit.label);
    const edges: Part["edges"] = [
      { x: 0, side: -1 },
      { x: SWATCH_MM.wide, side: 1 },
    ];
    const part: Part = {
      fromMm: fromZ,
      toMm: toZ,
      faces: [face],
      gaps: [],
      spans: [],
      lips: [],
      edges,
      rippleMm: piece.rippleMm[i],
    };
    drawDefects(pen, part, piece.units[i]);
  });
  return picture(pen, -SWATCH_MM.label, SWATCH_MM.wide + MARGIN_MM, topMm, layerMm);
}

function drawDefects(pen: Pen, part: Part, { marks }: PieceUnit): void {
  for (const [key, mark] of Object.entries(marks) as [CriterionKey, number][]) defects[key].draw(part, mark, pen);
}

function paintFace(pen: Pen, { fromX, toX, fromZ, toZ, depthMm, raised }: Face, colourHex: string): void {
  const fill = raised
    ? mix(colourHex, "#ffffff", 0.3)
    : mix(colourHex, "#241722", Math.min(0.5, 0.04 + depthMm * 0.02));
  pen.face({ x: fromX, z: fromZ }, { x: toX, z: toZ }, fill);
}

function picture(pen: Pen, left: number, right: number, topMm: number, layerMm: number): PiecePicture {
  const widthMm = Math.round((right - left) * 100) / 100;
  const heightMm = Math.round(topMm * 100) / 100;
  const box = `viewBox="${left.toFixed(2)} 0 ${widthMm} ${heightMm}" width="${widthMm}mm" height="${heightMm}mm"`;
  // Every layer throws a thin shadow on the one below.
  const lines = `<pattern id="layers" width="4" height="${layerMm}" patternUnits="userSpaceOnUse"><rect width="4" height="${(layerMm * 0.3).toFixed(3)}" fill="#000" opacity=".16"/></pattern>`;
  const shade = `<g fill="url(#layers)">${pen.shaded}</g>`;
  return {
    svg: `<svg xmlns="http://www.w3.org/2000/svg" ${box}><defs>${lines}</defs>${pen.elements}${shade}</svg>`,
    widthMm,
    heightMm,
  };
}

const turned = new WeakMap<Section, Section>();

/** The same layer seen from behind: turned round by 180°. */
function turnedRound(slice: Slice): Slice {
  const known = turned.get(slice.drawn);
  const drawn = known ?? {
    id: -slice.drawn.id,
    islands: slice.drawn.islands.map((island) => ({
      ...island,
      region: island.region.map((ring) => ring.map(({ x, y }) => ({ x: -x, y: -y }))),
    })),
  };
  turned.set(slice.drawn, drawn);
  return { ...slice, drawn };
}

function tones(colourHex: string): Record<Tone, string> {
  return {
    own: mix(colourHex, "#241722", 0.12),
    pale: mix(colourHex, "#ffffff", 0.35),
    dark: mix(colourHex, "#241722", 0.55),
    hole: "#241722",
  };
}

/** One colour with a share of another in it. */
function mix(hex: string, other: string, share: number): string {
  const part = (text: string, at: number) => parseInt(text.slice(at, at + 2), 16);
  const mixed = [1, 3, 5].map((at) => Math.round(part(hex, at) * (1 - share) + part(other, at) * share));
  return `#${mixed.map((one) => one.toString(16).padStart(2, "0")).join("")}`;
}
