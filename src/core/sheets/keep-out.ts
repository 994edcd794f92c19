/** Places that nothing is laid in: strokes are cut at their edges. */
import type { KeepOut } from "./sheet";

/** An edge of a place kept out, or a circle. */
type Shape =
  | { kind: "circle"; x: number; y: number; radius: number; from: number; to: number }
  | { kind: "ring"; points: [number, number][]; from: number; to: number };

export class KeptOut {
  private readonly shapes: Shape[];

  constructor(keepOut: readonly KeepOut[]) {
    this.shapes = keepOut.map(
      ({ shape, centre = [0, 0], radiusMm = 0, widthMm = 0, depthMm = 0, points = [], fromMm, toMm }) => {
        const span = { from: fromMm ?? -Infinity, to: toMm ?? Infinity };
        const [x, y] = centre;
        if (shape === "circle") return { kind: "circle", x, y, radius: radiusMm, ...span };
        const [halfX, halfY] = [widthMm / 2, depthMm / 2];
        const corners: [number, number][] = [
          [x - halfX, y - halfY],
          [x + halfX, y - halfY],
          [x + halfX, y + halfY],
          [x - halfX, y + halfY],
        ];
        return { kind: "ring", points: shape === "rectangle" ? corners : points, ...span };
      },
    );
  }

  get isEmpty(): boolean {
    return this.shapes.length === 0;
  }

  isInside(x: number, y: number, z: number): boolean {
    return this.shapes.some((shape) => z >= shape.from && z <= shape.to && lies(shape, x, y));
  }

  /** Where a segment crosses an edge, 0 to 1 along it, in order; the ends are not among them. */
  crossings(x0: number, y0: number, x1: number, y1: number, z: number): number[] {
    const found: number[] = [];
    for (const shape of this.shapes) {
      if (z < shape.from || z > shape.to) continue;
      if (shape.kind === "circle") circleCrossings(shape, x0, y0, x1 - x0, y1 - y0, found);
      else ringCrossings(shape.points, x0, y0, x1 - x0, y1 - y0, found);
    }
    return found.filter((at) => at > 1e-9 && at < 1 - 1e-9).sort((a, b) => a - b);
  }
}

function lies(shape: Shape, x: number, y: number): boolean {
  if (shape.kind === "circle") return Math.hypot(x - shape.x, y - shape.y) < shape.radius;
  let inside = false;
  const { points } = shape;
  for (let i = 0, j = points.length - 1; i < points.length; j = i++) {
    const [[ax, ay], [bx, by]] = [points[i], points[j]];
    if (ay > y !== by > y && x < ((bx - ax) * (y - ay)) / (by - ay) + ax) inside = !inside;
  }
  return inside;
}

/** |p + t·d − c|² = r², solved for t. */
function circleCrossings(
  { x, y, radius }: { x: number; y: number; radius: number },
  x0: number,
  y0: number,
  dx: number,
  dy: number,
  found: number[],
): void {
  const [fx, fy] = [x0 - x, y0 - y];
  const a = dx * dx + dy * dy;
  const b = 2 * (fx * dx + fy * dy);
  const root = b * b - 4 * a * (fx * fx + fy * fy - radius * radius);
  if (a === 0 || root <= 0) return;
  found.push((-b - Math.sqrt(root)) / (2 * a), (-b + Math.sqrt(root)) / (2 * a));
}

function ringCrossings(
  points: readonly [number, number][],
  x0: number,
  y0: number,
  dx: number,
  dy: number,
  found: number[],
): void {
  for (let i = 0, j = points.length - 1; i < points.length; j = i++) {
    const [[ax, ay], [bx, by]] = [points[j], points[i]];
    const [ex, ey] = [bx - ax, by - ay];
    const cross = dx * ey - dy * ex;
    if (Math.abs(cross) < 1e-12) continue;
    const along = ((ax - x0) * ey - (ay - y0) * ex) / cross;
    const across = ((ax - x0) * dy - (ay - y0) * dx) / cross;
    if (across >= 0 && across < 1) found.push(along);
  }
}
