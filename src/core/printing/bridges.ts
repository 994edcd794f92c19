/** Bridges: parts of a layer that hang over air but are held at both ends of every line laid across them. */
import {
  boundingBox,
  contains,
  difference,
  intersection,
  islandsOf,
  offset,
  Region,
  regionAreaMm2,
} from "../geometry/polygons";
import { distanceMm, hatch, Segment } from "../geometry/segments";

export interface Bridge {
  /** The part over air. */
  region: Region;
  /** Direction of the strands, radians from X. */
  angle: number;
}

const SMALLEST_BRIDGE_MM2 = 2;
const ANGLE_STEP = Math.PI / 12;
/** How many of the strands must be held at both ends. */
const HELD_SHARE = 0.95;

/**
 * The bridges of one island. Overhangs that lean out less than half a bead a layer, and ledges held at one side only, are not
 * bridges.
 *
 * @param island the layer's own region
 * @param below what the layer below holds there; empty for the first layer
 * @param beadWidthMm width of a bead: narrower parts over air are overhangs
 */
export function findBridges(island: Region, below: Region, beadWidthMm: number): Bridge[] {
  if (below.length === 0) return [];
  const overAir = difference(island, offset(below, beadWidthMm * 0.5));
  if (overAir.length === 0 || regionAreaMm2(overAir) < SMALLEST_BRIDGE_MM2) return [];
  const bridges: Bridge[] = [];
  for (const part of islandsOf(overAir)) {
    if (regionAreaMm2(part) < SMALLEST_BRIDGE_MM2) continue;
    if (offset(part, -beadWidthMm * 0.75).length === 0) continue;
    const angle = straightAcross(part, below, beadWidthMm);
    if (angle === null) continue;
    // Back to the posts: what was kept clear for leaning walls belongs to the bridge too.
    const region = difference(intersection(offset(part, beadWidthMm * 0.5), island), below);
    bridges.push({ region, angle });
  }
  return bridges;
}

/** The direction in which the strands are held at both ends and shortest; null if there is none. */
function straightAcross(part: Region, below: Region, beadWidthMm: number): number | null {
  let best: number | null = null;
  let shortest = Infinity;
  const box = boundingBox(part);
  const spacing = Math.max(beadWidthMm, Math.min(box.maxX - box.minX, box.maxY - box.minY) / 12);
  for (let angle = 0; angle < Math.PI - 1e-6; angle += ANGLE_STEP) {
    const strands = hatch(part, angle, spacing);
    if (strands.length === 0) continue;
    const held = strands.filter((strand) => isHeld(strand, below, beadWidthMm * 1.5)).length;
    if (held < strands.length * HELD_SHARE) continue;
    const mean = strands.reduce((sum, { a, b }) => sum + distanceMm(a, b), 0) / strands.length;
    if (mean < shortest - 1e-6) {
      best = angle;
      shortest = mean;
    }
  }
  return best;
}

function isHeld({ a, b }: Segment, below: Region, reachMm: number): boolean {
  const length = distanceMm(a, b);
  const ux = ((b.x - a.x) / length) * reachMm;
  const uy = ((b.y - a.y) / length) * reachMm;
  return contains(below, a.x - ux, a.y - uy) && contains(below, b.x + ux, b.y + uy);
}
