/** A single bead along a line: one-wall boxes, lines of a pattern, tracks to measure. */
import { Point, Ring } from "../geometry/polygons";
import { distanceMm } from "../geometry/segments";

export interface Track {
  /** Centre line, mm; the first point again at the end of a closed one. */
  points: Point[];
  widthMm: number;
  /** Feed of each stretch, mm/s, where it is not the wall's own. */
  speedsMmS?: number[];
  /** Index of the spot it belongs to, where values stand side by side. */
  spot?: number;
  /** Places to go by on the way to its beginning, and back behind its end: round faces that are looked at. */
  via?: Point[];
  /** Part of a number: the short ways between its strokes are gone without drawing back. */
  isText?: boolean;
}

/** What a track covers: one rectangle a stretch, counter-clockwise, half a width longer at both ends. */
export function trackOutline({ points, widthMm }: Track): Ring[] {
  const rings: Ring[] = [];
  for (let i = 1; i < points.length; i++) {
    const a = points[i - 1];
    const b = points[i];
    const length = distanceMm(a, b);
    if (length < 1e-6) continue;
    const ux = ((b.x - a.x) / length) * (widthMm / 2);
    const uy = ((b.y - a.y) / length) * (widthMm / 2);
    rings.push([
      { x: a.x - ux + uy, y: a.y - uy - ux },
      { x: b.x + ux + uy, y: b.y + uy - ux },
      { x: b.x + ux - uy, y: b.y + uy + ux },
      { x: a.x - ux - uy, y: a.y - uy + ux },
    ]);
  }
  return rings;
}
