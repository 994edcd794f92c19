/** Places that nothing is laid in: strokes are cut at their edges, or go round along them. */
import type { Point } from "../geometry/polygons";
import { refuse, Refusal, Result, succeed } from "../result";
import type { Scope } from "./scope";
import type { Expr, KeepOut } from "./sheet";
import { facesFor } from "./strokes/stroke";

interface Common {
  from: number;
  to: number;
  isAround: boolean;
}
/** An edge of a place kept out, or a circle. */
export type Shape = Common &
  ({ kind: "circle"; x: number; y: number; radius: number } | { kind: "ring"; points: Point[] });

/** Where a stroke was cut is on the edge by so much. */
const ON_EDGE_MM = 1e-3;

export class KeptOut {
  private constructor(private readonly shapes: Shape[]) {}

  /** The places of a sheet, by its figures; refused with the field that has no value. */
  static of(keepOut: readonly KeepOut[], scope: Scope): Result<KeptOut> {
    let refusal: Refusal | null = null;
    const shapes = keepOut.flatMap((one, i): Shape[] => {
      if (one.off) return [];
      const figure = (text: Expr | undefined, name: string, otherwise: number): number => {
        if (text === undefined) return otherwise;
        const compiled = scope.compile(text, `keepOut.${i}.${name}`);
        if (!compiled.ok) {
          refusal ??= compiled;
          return otherwise;
        }
        const value = compiled.value.at(scope.slots);
        if (!Number.isFinite(value)) refusal ??= refuse("It has no value.", `keepOut.${i}.${name}`);
        return value;
      };
      const common = {
        from: figure(one.fromMm, "fromMm", -Infinity),
        to: figure(one.toMm, "toMm", Infinity),
        isAround: one.around === true,
      };
      const [cx, cy] = one.centre ?? [0, 0];
      const [x, y] = [figure(cx, "centre.0", 0), figure(cy, "centre.1", 0)];
      if (one.shape === "circle")
        return [{ kind: "circle", x, y, radius: figure(one.radiusMm, "radiusMm", 0), ...common }];
      if (one.shape === "rectangle") {
        const [halfX, halfY] = [figure(one.widthMm, "widthMm", 0) / 2, figure(one.depthMm, "depthMm", 0) / 2];
        const corners = [
          [-1, -1],
          [1, -1],
          [1, 1],
          [-1, 1],
        ].map(([sx, sy]) => ({ x: x + sx * halfX, y: y + sy * halfY }));
        return [{ kind: "ring", points: corners, ...common }];
      }
      const points = (one.points ?? []).map(([px, py], n) => ({
        x: figure(px, `points.${n}.0`, 0),
        y: figure(py, `points.${n}.1`, 0),
      }));
      return [{ kind: "ring", points, ...common }];
    });
    return refusal ?? succeed(new KeptOut(shapes));
  }

  get isEmpty(): boolean {
    return this.shapes.length === 0;
  }

  /** @param but a place that does not count: the one whose edge is gone along */
  isInside(x: number, y: number, z: number, but: Shape | null = null): boolean {
    return this.shapes.some((shape) => shape !== but && z >= shape.from && z <= shape.to && lies(shape, x, y));
  }

  /** Whether a straight way at a height goes through any of them. */
  isCrossed(x0: number, y0: number, x1: number, y1: number, z: number): boolean {
    if (this.isEmpty) return false;
    const cuts = [0, ...this.crossings(x0, y0, x1, y1, z), 1];
    for (let i = 0; i + 1 < cuts.length; i++) {
      const share = (cuts[i] + cuts[i + 1]) / 2;
      if (cuts[i + 1] - cuts[i] > 1e-6 && this.isInside(x0 + (x1 - x0) * share, y0 + (y1 - y0) * share, z)) return true;
    }
    return false;
  }

  /** The way from one place on an edge to another along it, the shorter way round; null where strokes are to cross over. */
  wayRound(from: Point, to: Point, z: number): { places: Point[]; shape: Shape } | null {
    for (const shape of this.shapes) {
      if (!shape.isAround || z < shape.from || z > shape.to) continue;
      if (farFrom(shape, from) > ON_EDGE_MM || farFrom(shape, to) > ON_EDGE_MM) continue;
      const places = shape.kind === "circle" ? arcWay(shape, from, to) : ringWay(shape.points, from, to);
      return { places, shape };
    }
    return null;
  }

  /** Where a segment crosses an edge, 0 to 1 along it, in order; the ends are not among them. */
  crossings(x0: number, y0: number, x1: number, y1: number, z: number, but: Shape | null = null): number[] {
    const found: number[] = [];
    for (const shape of this.shapes) {
      if (shape === but || z < shape.from || z > shape.to) continue;
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
    const [{ x: ax, y: ay }, { x: bx, y: by }] = [points[i], points[j]];
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
  points: readonly Point[],
  x0: number,
  y0: number,
  dx: number,
  dy: number,
  found: number[],
): void {
  for (let i = 0, j = points.length - 1; i < points.length; j = i++) {
    const [{ x: ax, y: ay }, { x: bx, y: by }] = [points[j], points[i]];
    const [ex, ey] = [bx - ax, by - ay];
    const cross = dx * ey - dy * ex;
    if (Math.abs(cross) < 1e-12) continue;
    const along = ((ax - x0) * ey - (ay - y0) * ex) / cross;
    const across = ((ax - x0) * dy - (ay - y0) * dx) / cross;
    if (across >= 0 && across < 1) found.push(along);
  }
}

function farFrom(shape: Shape, { x, y }: Point): number {
  if (shape.kind === "circle") return Math.abs(Math.hypot(x - shape.x, y - shape.y) - shape.radius);
  return Math.min(...shape.points.map((_, i) => besideEdge(shape.points, i, { x, y }).farMm));
}

/** How far a place lies from the edge that begins at corner `i`, and how far along it, 0 to 1. */
function besideEdge(points: readonly Point[], i: number, { x, y }: Point): { farMm: number; share: number } {
  const [a, b] = [points[i], points[(i + 1) % points.length]];
  const [ex, ey] = [b.x - a.x, b.y - a.y];
  const length = ex * ex + ey * ey;
  const share = length === 0 ? 0 : Math.max(0, Math.min(1, ((x - a.x) * ex + (y - a.y) * ey) / length));
  return { farMm: Math.hypot(a.x + ex * share - x, a.y + ey * share - y), share };
}

function arcWay({ x, y, radius }: { x: number; y: number; radius: number }, from: Point, to: Point): Point[] {
  const begin = Math.atan2(from.y - y, from.x - x);
  let turn = Math.atan2(to.y - y, to.x - x) - begin;
  if (turn > Math.PI) turn -= 2 * Math.PI;
  if (turn < -Math.PI) turn += 2 * Math.PI;
  const steps = Math.max(1, Math.ceil((facesFor(radius) * Math.abs(turn)) / (2 * Math.PI)));
  // Chords lie inside their circle; tangents do not: their corners stand half a step on, and so far out.
  const outer = radius / Math.cos(turn / steps / 2);
  const way = Array.from({ length: steps }, (_, i) => {
    const angle = begin + (turn * (i + 0.5)) / steps;
    return { x: x + outer * Math.cos(angle), y: y + outer * Math.sin(angle) };
  });
  return [...way, to];
}

function ringWay(points: readonly Point[], from: Point, to: Point): Point[] {
  const edgeOf = (place: Point) => {
    const edges = points.map((_, i) => ({ i, ...besideEdge(points, i, place) }));
    return edges.reduce((best, one) => (one.farMm < best.farMm ? one : best));
  };
  const [a, b] = [edgeOf(from), edgeOf(to)];
  const n = points.length;
  const isSame = a.i === b.i;
  const forward: Point[] = [];
  if (!isSame || b.share < a.share) {
    for (let i = (a.i + 1) % n, left = n; left > 0; i = (i + 1) % n, left--) {
      forward.push(points[i]);
      if (i === b.i) break;
    }
  }
  const back: Point[] = [];
  if (!isSame || b.share > a.share) {
    for (let i = a.i, left = n; left > 0; i = (i - 1 + n) % n, left--) {
      back.push(points[i]);
      if (i === (b.i + 1) % n) break;
    }
  }
  const length = (way: readonly Point[]) =>
    [...way, to].reduce((sum, place, i, all) => {
      const last = i === 0 ? from : all[i - 1];
      return sum + Math.hypot(place.x - last.x, place.y - last.y);
    }, 0);
  return [...(length(forward) <= length(back) ? forward : back), to];
}
