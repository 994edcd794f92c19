/** The outline of a wall between two layers: each edge is moved towards the outline of the neighbouring layer by a share of the way. */
import type { Point, Ring } from "../geometry/polygons";

/** Edges are cut to this at most, mm: a wall may lean more at one end than at the other. */
const LONGEST_EDGE_MM = 2;
/** A cell of the index of edges, mm. */
const CELL_MM = 2;
/** An outline that is further away than this is another wall, mm: about two beads (common practice, no source). */
export const FARTHEST_MM = 1;
/** A corner that stands out by less is none, mm. */
const STRAIGHT_MM = 0.001;
/** What is found must lie straight across the edge, and not along it. */
const ACROSS = 0.7;

/** Finds the nearest place of some rings. */
export class OutlineIndex {
  private readonly cells = new Map<number, [Point, Point][]>();

  constructor(rings: readonly Ring[]) {
    for (const ring of rings) {
      ring.forEach((a, i) => {
        const b = ring[(i + 1) % ring.length];
        const steps = Math.max(1, Math.ceil(Math.hypot(b.x - a.x, b.y - a.y) / CELL_MM));
        const seen = new Set<number>();
        for (let step = 0; step <= steps; step++) {
          const key = keyOf(a.x + ((b.x - a.x) * step) / steps, a.y + ((b.y - a.y) * step) / steps);
          if (seen.has(key)) continue;
          seen.add(key);
          const cell = this.cells.get(key);
          if (cell) cell.push([a, b]);
          else this.cells.set(key, [[a, b]]);
        }
      });
    }
  }

  /** The nearest place within `FARTHEST_MM`; null if there is none. */
  nearest({ x, y }: Point): Point | null {
    let best: Point | null = null;
    let bestMm = FARTHEST_MM;
    for (let dx = -1; dx <= 1; dx++) {
      for (let dy = -1; dy <= 1; dy++) {
        for (const [a, b] of this.cells.get(keyOf(x + dx * CELL_MM, y + dy * CELL_MM)) ?? []) {
          const [ex, ey] = [b.x - a.x, b.y - a.y];
          const square = ex * ex + ey * ey;
          const t = square > 0 ? Math.min(1, Math.max(0, ((x - a.x) * ex + (y - a.y) * ey) / square)) : 0;
          const at = { x: a.x + ex * t, y: a.y + ey * t };
          const mm = Math.hypot(at.x - x, at.y - y);
          if (mm > bestMm) continue;
          bestMm = mm;
          best = at;
        }
      }
    }
    return best;
  }
}

/** Beds are smaller than this many cells, either way. */
const CELLS = 1 << 16;
const keyOf = (x: number, y: number) => Math.floor(x / CELL_MM) * CELLS + Math.floor(y / CELL_MM);

/**
 * A ring moved by `share` (0–1) of the way to its neighbour: every edge goes straight across, and corners stand where the moved edges meet.
 * Where the neighbour has no wall near, the edge stays.
 */
export function outlineBetween(ring: Ring, neighbour: OutlineIndex, share: number): Ring {
  if (share === 0) return ring;
  const cut = cutEdges(ring);
  const edges = cut.map((a, i) => {
    const b = cut[(i + 1) % cut.length];
    const lengthMm = Math.hypot(b.x - a.x, b.y - a.y);
    const normal = { x: (b.y - a.y) / lengthMm, y: (a.x - b.x) / lengthMm };
    const middle = { x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 };
    const found = neighbour.nearest(middle);
    let byMm = 0;
    if (found) {
      const away = { x: found.x - middle.x, y: found.y - middle.y };
      const across = away.x * normal.x + away.y * normal.y;
      if (Math.abs(across) >= ACROSS * Math.hypot(away.x, away.y)) byMm = across * share;
    }
    return { normal, byMm };
  });
  const moved = cut.map((corner, i) => {
    const [a, b] = [edges[(i + edges.length - 1) % edges.length], edges[i]];
    // The place that lies by both distances across both edges.
    const cross = a.normal.x * b.normal.y - a.normal.y * b.normal.x;
    if (Math.abs(cross) < 0.2) {
      const byMm = (a.byMm + b.byMm) / 2;
      const nx = a.normal.x + b.normal.x;
      const ny = a.normal.y + b.normal.y;
      const length = Math.hypot(nx, ny);
      return length < 1e-9 ? corner : { x: corner.x + (nx / length) * byMm, y: corner.y + (ny / length) * byMm };
    }
    return {
      x: corner.x + (a.byMm * b.normal.y - b.byMm * a.normal.y) / cross,
      y: corner.y + (b.byMm * a.normal.x - a.byMm * b.normal.x) / cross,
    };
  });
  return withoutStraight(moved);
}

/** The ring without corners that lie on the line between their neighbours. */
function withoutStraight(ring: Ring): Ring {
  const kept = ring.filter((corner, i) => {
    const [a, b] = [ring[(i + ring.length - 1) % ring.length], ring[(i + 1) % ring.length]];
    const lengthMm = Math.hypot(b.x - a.x, b.y - a.y);
    const off = (b.x - a.x) * (corner.y - a.y) - (b.y - a.y) * (corner.x - a.x);
    return lengthMm < 1e-9 || Math.abs(off) / lengthMm > STRAIGHT_MM;
  });
  return kept.length >= 3 ? kept : ring;
}

function cutEdges(ring: Ring): Ring {
  return ring.flatMap((a, i) => {
    const b = ring[(i + 1) % ring.length];
    const lengthMm = Math.hypot(b.x - a.x, b.y - a.y);
    if (lengthMm < 1e-6) return [];
    const parts = Math.max(1, Math.ceil(lengthMm / LONGEST_EDGE_MM));
    return Array.from({ length: parts }, (_, n) => ({
      x: a.x + ((b.x - a.x) * n) / parts,
      y: a.y + ((b.y - a.y) * n) / parts,
    }));
  });
}

/** Length of a ring, mm. */
export const ringLengthMm = (ring: Ring): number =>
  ring.reduce((sum, a, i) => {
    const b = ring[(i + 1) % ring.length];
    return sum + Math.hypot(b.x - a.x, b.y - a.y);
  }, 0);
