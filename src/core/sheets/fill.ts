/** The inside of a closed stroke as strokes: rings inside one another, or lines across. */
import { islandsOf, offset, offsets, Point, Region, Ring, ringAreaMm2 } from "../geometry/polygons";
import { distanceMm, hatch } from "../geometry/segments";

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

/** Strokes that fill it, in the order they are laid; a ring ends where it begins. */
export function fillOf({ outline, pattern, angle, spacingMm, share, from }: FillRequest): Point[][] {
  const apartMm = spacingMm / share;
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
    if (lines.length === 0) continue;
    const last = lines[lines.length - 1];
    // Begun at the end that lies nearer; every other line is turned round already.
    const isBackwards = distanceMm(at, last.b) < distanceMm(at, lines[0].a);
    for (const { a, b } of isBackwards ? [...lines].reverse() : lines) strokes.push(isBackwards ? [b, a] : [a, b]);
    at = strokes[strokes.length - 1][1];
  }
  return strokes;
}

function nearestIn(ring: Ring, to: Point): number {
  let best = 0;
  for (let i = 1; i < ring.length; i++) if (distanceMm(ring[i], to) < distanceMm(ring[best], to)) best = i;
  return best;
}
