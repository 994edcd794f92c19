/** Strokes of a sheet painted on a canvas, a little at a time, so that millions of them hold nothing up. */
import { laysMaterial } from "@/core/gcode/moves";
import type { SheetView } from "@/workers/sheet-messages";

export type Side = "above" | "front";

/** From millimetres to the pixels of a picture. */
export interface Projection {
  perMm: number;
  px(xMm: number): number;
  py(vMm: number): number;
}

const MARGIN_PX = 14;
/** What answers a key is painted at once, as long as nobody waits for anything else; a frame has 16 ms, and so much of those behind it is used. */
export const FIRST_MS = 30;
const BUDGET_MS = 6;
const MOVES_AT_ONCE = 4000;
/** Places nearer to one another cannot be told apart. */
const FINEST_PX = 0.6;

export function projectionOf(view: SheetView, side: Side, widthPx: number, heightPx: number): Projection | null {
  const { room } = view;
  if (!room) return null;
  const [lowV, highV] = side === "above" ? [room.minY, room.maxY] : [0, room.maxZ];
  const perMm = Math.min(
    (widthPx - 2 * MARGIN_PX) / Math.max(1, room.maxX - room.minX),
    (heightPx - 2 * MARGIN_PX) / Math.max(1, highV - lowV),
  );
  const [middleX, middleV] = [(room.minX + room.maxX) / 2, (lowV + highV) / 2];
  return {
    perMm,
    px: (x) => widthPx / 2 + (x - middleX) * perMm,
    py: (v) => heightPx / 2 - (v - middleV) * perMm,
  };
}

export interface Brush {
  colour: string;
  widthPx: number;
}

/** Paints the laying moves from one to another that are wanted; gives back how far it came in its time. */
function paintSome(
  context: CanvasRenderingContext2D,
  { laid: { moves } }: SheetView,
  side: Side,
  { px, py }: Projection,
  range: { from: number; to: number },
  until: number,
  isWanted: ((move: number) => boolean) | null,
): number {
  const { x, kind } = moves;
  const v = side === "above" ? moves.y : moves.z;
  let at = Math.max(1, range.from);
  while (at < range.to && performance.now() < until) {
    const end = Math.min(range.to, at + MOVES_AT_ONCE);
    context.beginPath();
    let open = false;
    let penX = NaN;
    let penY = NaN;
    for (; at < end; at++) {
      if (!laysMaterial(kind[at]) || (isWanted && !isWanted(at))) {
        open = false;
        continue;
      }
      if (!open) {
        penX = px(x[at - 1]);
        penY = py(v[at - 1]);
        context.moveTo(penX, penY);
        open = true;
      }
      const toX = px(x[at]);
      const toY = py(v[at]);
      const isNear = Math.abs(toX - penX) < FINEST_PX && Math.abs(toY - penY) < FINEST_PX;
      if (isNear && at + 1 < end && laysMaterial(kind[at + 1])) continue;
      context.lineTo(toX, toY);
      penX = toX;
      penY = toY;
    }
    context.stroke();
  }
  return at;
}

/** So many shades tell heights apart. */
const MOST_SHADES = 24;

/** Low layers pale, high ones dark, so that what grows wider or narrower can be seen from above. */
export function shadesOf({ laid: { layerStarts } }: SheetView, low: string, high: string, widthPx: number) {
  const layers = Math.max(1, layerStarts.length - 1);
  const perShade = Math.ceil(layers / MOST_SHADES);
  const shades = Math.ceil(layers / perShade);
  return (move: number): Brush & { until: number } => {
    const shade = Math.floor(layerOfMove(layerStarts, move) / perShade);
    const share = shades === 1 ? 100 : (100 * shade) / (shades - 1);
    return {
      colour: `color-mix(in oklab, ${high} ${share}%, ${low})`,
      widthPx,
      until: layerStarts[Math.min(layers, (shade + 1) * perShade)],
    };
  };
}

/** Index of the layer that a move belongs to. */
export function layerOfMove(layerStarts: readonly number[], move: number): number {
  let [low, high] = [0, layerStarts.length - 2];
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (layerStarts[middle] <= move) low = middle;
    else high = middle - 1;
  }
  return Math.max(0, low);
}

/** One canvas on which strokes are painted over several frames; a new wish takes the place of the last. */
export class Painter {
  /** So far it has come. */
  at = 0;
  private frame = 0;

  constructor(private readonly context: CanvasRenderingContext2D) {}

  /** @param brushAt the brush of a move, and the move up to which it holds; ranges are painted in their order @param firstMs so long it paints at once */
  paint(
    view: SheetView,
    side: Side,
    projection: Projection,
    brushAt: Brush | ((move: number) => Brush & { until: number }),
    range: { from: number; to: number },
    isWanted: ((move: number) => boolean) | null = null,
    firstMs = BUDGET_MS,
  ): void {
    this.stop();
    const { context } = this;
    context.lineCap = "round";
    context.lineJoin = "round";
    const go = (from: number, budgetMs: number) => {
      const until = performance.now() + budgetMs;
      let at = from;
      while (at < range.to && performance.now() < until) {
        const brush = typeof brushAt === "function" ? brushAt(at) : { ...brushAt, until: range.to };
        context.strokeStyle = brush.colour;
        context.lineWidth = brush.widthPx;
        const part = { from: at, to: Math.min(range.to, brush.until) };
        at = paintSome(context, view, side, projection, part, until, isWanted);
      }
      this.at = at;
      if (at < range.to) this.frame = requestAnimationFrame(() => go(at, BUDGET_MS));
    };
    go(range.from, firstMs);
  }

  stop(): void {
    cancelAnimationFrame(this.frame);
  }
}

/** The laying move nearest to a place of the picture, within some pixels; -1 where none is. */
export function moveAt(
  { laid: { moves } }: SheetView,
  side: Side,
  { px, py }: Projection,
  place: { x: number; y: number },
  withinPx: number,
): number {
  const { x, kind, count } = moves;
  const v = side === "above" ? moves.y : moves.z;
  let best = -1;
  let least = withinPx * withinPx;
  let [ax, ay] = [0, 0];
  for (let i = 0; i < count; i++) {
    const bx = px(x[i]);
    const by = py(v[i]);
    if (i > 0 && laysMaterial(kind[i])) {
      const [dx, dy] = [bx - ax, by - ay];
      const length = dx * dx + dy * dy;
      const share = length === 0 ? 0 : Math.max(0, Math.min(1, ((place.x - ax) * dx + (place.y - ay) * dy) / length));
      const far = (ax + dx * share - place.x) ** 2 + (ay + dy * share - place.y) ** 2;
      // The last laid of several over one another is the one that is seen.
      if (far <= least) {
        least = far;
        best = i;
      }
    }
    ax = bx;
    ay = by;
  }
  return best;
}
