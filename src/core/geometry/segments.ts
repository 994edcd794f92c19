/** Straight lines against regions: hatching, cutting and looking whether a way is free. */
import { contains, Point, Region } from "./polygons";

export interface Segment {
  a: Point;
  b: Point;
}

/**
 * Parallel lines across the region, `spacingMm` apart, at `angle` (radians from X), every other one turned round so that the
 * end of one is near the start of the next. Lines lie on one grid for all regions; `phaseMm` shifts it.
 * `row` tells which grid line each belongs to.
 */
export function hatch(region: Region, angle: number, spacingMm: number, phaseMm = 0): (Segment & { row: number })[] {
  if (region.length === 0) return [];
  const cos = Math.cos(angle);
  const sin = Math.sin(angle);
  // Turned so that the lines run along u; v counts across.
  const rings = region.map((ring) => ring.map(({ x, y }) => ({ u: x * cos + y * sin, v: -x * sin + y * cos })));
  let low = Infinity;
  let high = -Infinity;
  for (const ring of rings) {
    for (const { v } of ring) {
      if (v < low) low = v;
      if (v > high) high = v;
    }
  }
  const first = Math.ceil((low - phaseMm) / spacingMm);
  const last = Math.floor((high - phaseMm) / spacingMm);
  const segments: (Segment & { row: number })[] = [];
  for (let row = first; row <= last; row++) {
    // A hair off the grid, so that no line runs exactly through a corner.
    const v = row * spacingMm + phaseMm + 1e-5;
    const crossings: number[] = [];
    for (const ring of rings) {
      for (let i = 0, j = ring.length - 1; i < ring.length; j = i++) {
        const p = ring[j];
        const q = ring[i];
        if (p.v > v !== q.v > v) crossings.push(p.u + ((q.u - p.u) * (v - p.v)) / (q.v - p.v));
      }
    }
    crossings.sort((a, b) => a - b);
    const forth = (row & 1) === 0;
    const ofRow: (Segment & { row: number })[] = [];
    for (let i = 0; i + 1 < crossings.length; i += 2) {
      const from = forth ? crossings[i] : crossings[i + 1];
      const to = forth ? crossings[i + 1] : crossings[i];
      if (Math.abs(to - from) < 0.05) continue;
      ofRow.push({
        a: { x: from * cos - v * sin, y: from * sin + v * cos },
        b: { x: to * cos - v * sin, y: to * sin + v * cos },
        row,
      });
    }
    segments.push(...(forth ? ofRow : ofRow.reverse()));
  }
  return segments;
}

/** Where along a→b (0–1) the line crosses the borders of the region, ascending. */
function crossingsAlong(region: Region, a: Point, b: Point): number[] {
  const dx = b.x - a.x;
  const dy = b.y - a.y;
  const crossings: number[] = [];
  for (const ring of region) {
    for (let i = 0, j = ring.length - 1; i < ring.length; j = i++) {
      const p = ring[j];
      const q = ring[i];
      const ex = q.x - p.x;
      const ey = q.y - p.y;
      const cross = dx * ey - dy * ex;
      if (Math.abs(cross) < 1e-12) continue;
      const along = ((p.x - a.x) * ey - (p.y - a.y) * ex) / cross;
      const across = ((p.x - a.x) * dy - (p.y - a.y) * dx) / cross;
      if (along > 1e-9 && along < 1 - 1e-9 && across >= 0 && across <= 1) crossings.push(along);
    }
  }
  return crossings.sort((x, y) => x - y);
}

/** Whether the straight way from a to b stays inside the region all along. */
export function staysInside(region: Region, a: Point, b: Point): boolean {
  const stops = [0, ...crossingsAlong(region, a, b), 1];
  for (let i = 1; i < stops.length; i++) {
    if (stops[i] - stops[i - 1] < 1e-6) continue;
    const t = (stops[i] + stops[i - 1]) / 2;
    if (!contains(region, a.x + (b.x - a.x) * t, a.y + (b.y - a.y) * t)) return false;
  }
  return true;
}

/**
 * A way from a to b that stays inside the region: straight, or round one of the `bends`. Returns the bends it takes (none for
 * straight), the shortest such way; null if there is none, or only one longer than `mostDetour` times the straight line.
 */
export function wayInside(
  region: Region,
  bends: readonly Point[],
  a: Point,
  b: Point,
  mostDetour: number,
): Point[] | null {
  if (staysInside(region, a, b)) return [];
  if (!contains(region, a.x, a.y) || !contains(region, b.x, b.y)) return null;
  let best: Point | null = null;
  let shortest = distanceMm(a, b) * mostDetour;
  for (const bend of bends) {
    const length = distanceMm(a, bend) + distanceMm(bend, b);
    if (length >= shortest || !staysInside(region, a, bend) || !staysInside(region, bend, b)) continue;
    best = bend;
    shortest = length;
  }
  return best && [best];
}

/** The line a→b cut at the borders of the region; each piece says whether it lies inside. */
export function cutAtBorders(region: Region, a: Point, b: Point): (Segment & { inside: boolean })[] {
  const at = (t: number) => ({ x: a.x + (b.x - a.x) * t, y: a.y + (b.y - a.y) * t });
  const stops = [0, ...crossingsAlong(region, a, b), 1];
  const pieces: (Segment & { inside: boolean })[] = [];
  for (let i = 1; i < stops.length; i++) {
    if (stops[i] - stops[i - 1] < 1e-6) continue;
    const middle = at((stops[i] + stops[i - 1]) / 2);
    const inside = contains(region, middle.x, middle.y);
    const previous = pieces[pieces.length - 1];
    if (previous && previous.inside === inside) previous.b = at(stops[i]);
    else pieces.push({ a: at(stops[i - 1]), b: at(stops[i]), inside });
  }
  return pieces;
}

/** Distance of two points, mm. The square root by hand: `Math.hypot` guards against overflow that no bed has, at ten times the cost. */
export function distanceMm(a: Point, b: Point): number {
  const dx = b.x - a.x;
  const dy = b.y - a.y;
  return Math.sqrt(dx * dx + dy * dy);
}
