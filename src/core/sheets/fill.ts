/** The inside of a closed stroke as strokes: rings inside one another, or lines across. */
import { MoveKind } from "../gcode/moves";
import { boundingBox, islandsOf, offset, offsets, Point, Region, Ring, ringAreaMm2 } from "../geometry/polygons";
import { distanceMm, hatch } from "../geometry/segments";
import { joinLines } from "../printing/island";

export interface FillRequest {
  outline: Ring;
  pattern: "rings" | "lines";
  angle: number;
  /** Between two beads, mm, where it is solid; and how much is covered, 0 to 1. */
  spacingMm: number;
  share: number;
  /** Where the nozzle stands: the first stroke is the nearest. */
  from: Point;
}

const MOST_RINGS = 2000;
const MOST_LINES = 20_000;
/** Lines further apart than this, in spacings, are not joined. */
const MOST_JOINED = 1.3;

/** Strokes that fill it, in the order they are laid; a ring ends where it begins. Null where there would be too many of them. */
export function fillOf({ outline, pattern, angle, spacingMm, share, from }: FillRequest): Point[][] | null {
  const apartMm = spacingMm / share;
  const { minX, maxX, minY, maxY } = boundingBox([outline]);
  const most = pattern === "rings" ? 2 * MOST_RINGS : MOST_LINES;
  if (Math.hypot(maxX - minX, maxY - minY) / apartMm > most) return null;
  const whole: Region = [ringAreaMm2(outline) < 0 ? [...outline].reverse() : outline];
  return pattern === "rings"
    ? ringsIn(whole, spacingMm, apartMm, from)
    : linesIn(whole, angle, spacingMm, apartMm, from);
}

function ringsIn(whole: Region, firstMm: number, apartMm: number, from: Point): Point[][] {
  const strokes: Point[][] = [];
  let at = from;
  let region = offset(whole, -firstMm);
  for (let i = 0; region.length > 0 && i < MOST_RINGS; i++) {
    for (const ring of region) {
      const start = nearestIn(ring, at);
      strokes.push([...ring.slice(start), ...ring.slice(0, start), ring[start]]);
      at = ring[start];
    }
    region = offset(region, -apartMm);
  }
  return strokes;
}

function linesIn(whole: Region, angle: number, firstMm: number, apartMm: number, from: Point): Point[][] {
  const [core] = offsets(whole, [-firstMm]);
  const strokes: Point[][] = [];
  let at = from;
  for (const part of islandsOf(core)) {
    const lines = hatch(part, angle, apartMm);
    // Solid ones are one zigzag; sparse ones leave the edge open between them.
    const isSolid = apartMm <= firstMm * MOST_JOINED;
    const own = isSolid
      ? joinLines(lines, MoveKind.solid, part, apartMm).map(({ points }) => points)
      : lines.map(({ a, b }) => [a, b]);
    if (own.length === 0) continue;
    // Begun at the end that lies nearer; every other line is turned round already.
    const end = own[own.length - 1][own[own.length - 1].length - 1];
    if (distanceMm(at, end) < distanceMm(at, own[0][0])) own.reverse().forEach((points) => points.reverse());
    strokes.push(...own);
    at = own[own.length - 1][own[own.length - 1].length - 1];
  }
  return strokes;
}

function nearestIn(ring: Ring, to: Point): number {
  let best = 0;
  for (let i = 1; i < ring.length; i++) if (distanceMm(ring[i], to) < distanceMm(ring[best], to)) best = i;
  return best;
}
