/** In which order parts of a layer are laid. */
import { Box, Point } from "../geometry/polygons";
import { distanceMm } from "../geometry/segments";
import { Stroke } from "./island";

/** Lines looked at for the nearest one; a plate has fewer, and they come in order. */
const MOST_LOOKED_AT = 400;

/** Index of the spot that lies nearest to the middle of a box, and how far away it is, mm. */
export function nearestSpot(box: Box, spots: readonly Point[]): { spot: number; distance: number } {
  const middle = { x: (box.minX + box.maxX) / 2, y: (box.minY + box.maxY) / 2 };
  let best = -1;
  let nearest = Infinity;
  spots.forEach((spot, i) => {
    const distance = distanceMm(middle, spot);
    if (distance < nearest) {
      nearest = distance;
      best = i;
    }
  });
  return { spot: best, distance: nearest };
}

/** Takes the island nearest to a point out of those that wait. */
export function takeNearest<T extends { box: Box }>(islands: T[], from: Point): T {
  let best = 0;
  let nearest = Infinity;
  islands.forEach(({ box }, i) => {
    const dx = Math.max(box.minX - from.x, 0, from.x - box.maxX);
    const dy = Math.max(box.minY - from.y, 0, from.y - box.maxY);
    const distance = dx * dx + dy * dy;
    if (distance < nearest) {
      best = i;
      nearest = distance;
    }
  });
  return islands.splice(best, 1)[0];
}

/** Lays open lines part by part: the nearest part first, and each finished before the next, so that no way goes back over what is done. */
export function layPartByPart(
  parts: readonly Stroke[][],
  lay: (stroke: Stroke, reversed: boolean) => void,
  at: () => Point,
): void {
  const waiting = [...parts];
  while (waiting.length > 0) {
    const from = at();
    const distances = waiting.map((part) =>
      Math.min(...part.map(({ points }) => Math.min(distanceMm(from, points[0]), distanceMm(from, points.at(-1)!)))),
    );
    layNearestFirst(waiting.splice(distances.indexOf(Math.min(...distances)), 1)[0], lay, at);
  }
}

/** Lays open lines so that each starts at the end nearest to where the nozzle is. */
function layNearestFirst(strokes: Stroke[], lay: (stroke: Stroke, reversed: boolean) => void, at: () => Point): void {
  const waiting = [...strokes];
  while (waiting.length > 0) {
    const from = at();
    let best = 0;
    let reversed = false;
    let nearest = Infinity;
    // All that wait are looked at: one part may span wall and posts, and each is to be finished before the next is begun.
    for (let i = 0; i < Math.min(waiting.length, MOST_LOOKED_AT); i++) {
      const { points } = waiting[i];
      const toStart = distanceMm(from, points[0]);
      const toEnd = distanceMm(from, points[points.length - 1]);
      if (Math.min(toStart, toEnd) < nearest - 1e-9) {
        nearest = Math.min(toStart, toEnd);
        best = i;
        reversed = toEnd < toStart;
      }
    }
    lay(waiting.splice(best, 1)[0], reversed);
  }
}
