/** Raised digits made of straight strokes: seven of them, so that they stay legible at 3 mm. */

interface Stroke {
  /** In a cell 1 wide and 2 high, origin at the lower left. */
  x0: number;
  y0: number;
  x1: number;
  y1: number;
}

const strokes = {
  bottom: { x0: 0, y0: 0, x1: 1, y1: 0 },
  middle: { x0: 0, y0: 1, x1: 1, y1: 1 },
  top: { x0: 0, y0: 2, x1: 1, y1: 2 },
  lowerLeft: { x0: 0, y0: 0, x1: 0, y1: 1 },
  lowerRight: { x0: 1, y0: 0, x1: 1, y1: 1 },
  upperLeft: { x0: 0, y0: 1, x1: 0, y1: 2 },
  upperRight: { x0: 1, y0: 1, x1: 1, y1: 2 },
} satisfies Record<string, Stroke>;

export type StrokeName = keyof typeof strokes;

/** Which strokes make which sign. */
export const signs: Record<string, StrokeName[]> = {
  "0": ["bottom", "top", "lowerLeft", "lowerRight", "upperLeft", "upperRight"],
  "1": ["lowerRight", "upperRight"],
  "2": ["top", "upperRight", "middle", "lowerLeft", "bottom"],
  "3": ["top", "upperRight", "middle", "lowerRight", "bottom"],
  "4": ["upperLeft", "middle", "upperRight", "lowerRight"],
  "5": ["top", "upperLeft", "middle", "lowerRight", "bottom"],
  "6": ["top", "upperLeft", "middle", "lowerLeft", "lowerRight", "bottom"],
  "7": ["top", "upperRight", "lowerRight"],
  "8": ["bottom", "middle", "top", "lowerLeft", "lowerRight", "upperLeft", "upperRight"],
  "9": ["bottom", "middle", "top", "lowerRight", "upperLeft", "upperRight"],
  "-": ["middle"],
};

/** A filled upright rectangle on the face, mm: across and up. */
export interface FaceBox {
  minX: number;
  maxX: number;
  minZ: number;
  maxZ: number;
}

export interface TextSize {
  /** Height of a digit over all, mm. */
  heightMm: number;
  /** Width of a digit over all, mm. */
  widthMm: number;
  strokeMm: number;
  gapMm: number;
}

/** Width of the whole text, mm. A point takes one stroke. */
export function textWidthMm(text: string, size: TextSize): number {
  let width = 0;
  for (const sign of text) width += (sign === "." ? size.strokeMm : size.widthMm) + size.gapMm;
  return Math.max(0, width - size.gapMm);
}

/** The boxes that draw `text` with its lower left corner at `x`, `z`. Signs without strokes leave their room empty. */
export function textBoxes(text: string, x: number, z: number, size: TextSize): FaceBox[] {
  const boxes: FaceBox[] = [];
  const half = size.strokeMm / 2;
  let left = x;
  for (const sign of text) {
    if (sign === ".") {
      boxes.push({ minX: left, maxX: left + size.strokeMm, minZ: z, maxZ: z + size.strokeMm });
      left += size.strokeMm + size.gapMm;
      continue;
    }
    const spanX = size.widthMm - size.strokeMm;
    const spanZ = (size.heightMm - size.strokeMm) / 2;
    for (const name of signs[sign] ?? []) {
      const { x0, y0, x1, y1 } = strokes[name];
      boxes.push({
        minX: left + x0 * spanX,
        maxX: left + x1 * spanX + 2 * half,
        minZ: z + y0 * spanZ,
        maxZ: z + y1 * spanZ + 2 * half,
      });
    }
    left += size.widthMm + size.gapMm;
  }
  return boxes;
}

/**
 * The strokes of a sign as lines that are drawn without lifting, in a cell 1 wide and 2 high: as few as the sign can be drawn with. None
 * for signs that are not known.
 */
export function trailsOf(sign: string): { x: number; y: number }[][] {
  const left = (signs[sign] ?? []).map((name) => strokes[name]);
  const endsAt = (x: number, y: number) =>
    left.filter(({ x0, y0, x1, y1 }) => (x0 === x && y0 === y) || (x1 === x && y1 === y));
  const trails: { x: number; y: number }[][] = [];
  while (left.length > 0) {
    // A line without lifting begins where an odd number of strokes meet (Euler 1736), if there is such a place.
    const ends = left.flatMap(({ x0, y0, x1, y1 }) => [
      { x: x0, y: y0 },
      { x: x1, y: y1 },
    ]);
    let at = ends.find(({ x, y }) => endsAt(x, y).length % 2 === 1) ?? ends[0];
    const trail = [at];
    for (let next = endsAt(at.x, at.y)[0]; next !== undefined; next = endsAt(at.x, at.y)[0]) {
      left.splice(left.indexOf(next), 1);
      at = next.x0 === at.x && next.y0 === at.y ? { x: next.x1, y: next.y1 } : { x: next.x0, y: next.y0 };
      trail.push(at);
    }
    trails.push(trail);
  }
  return trails;
}
