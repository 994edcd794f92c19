/**
 * A piece to be printed: what is solid at a height, and where single beads run. Walls, fill, bridges and travels are made of it here,
 * in `printing/`; which pieces there are is the business of `specimens/`.
 */
import { Point, Ring } from "../geometry/polygons";
import { Track } from "./track";

/** A spot of the piece on which one of several side-by-side values is tried. */
export interface Spot {
  x: number;
  y: number;
  label: string;
}

export interface PieceShape {
  /** mm */
  heightMm: number;
  /** Room it takes, X by Y, mm, centred on 0, 0. The front is the side of smallest Y. */
  widthMm: number;
  depthMm: number;
  /** Everything solid at the height, as overlapping counter-clockwise rings in mm. Heights outside give none. */
  solidAt(zMm: number): Ring[];
  /** Single beads at the height, in the order they are laid. */
  tracksAt?(zMm: number): Track[];
  /** Walls begin and end at their corner nearest to this place; at the back left if none is named. */
  seamNear?: Point;
  /** Islands of a layer are laid in this order, each belonging to the place nearest to it; by the shortest way if it is left out. */
  order?: Point[];
  /** The spots of side-by-side values, in the order they are printed in every layer. */
  spots?: Spot[];
  /** The piece in text, seen from the front, top line first; for the program's header. */
  drawing: string[];
  /** How the bands are told apart on the piece: one sentence for screen and header. */
  legend: string;
  /** Bands too low to carry their value on the piece (number from 1). */
  unlabelled: number[];
}

/** The spots of the piece in bed coordinates. */
export function spotsOnBed(spots: readonly Spot[], centre: { x: number; y: number }): Spot[] {
  return spots.map(({ x, y, label }) => ({ x: x + centre.x, y: y + centre.y, label }));
}
