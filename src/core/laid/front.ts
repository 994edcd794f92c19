/** A program seen from the front, worked out from what it lays: for every layer, which stretches of X are covered and how far back. */
import type { Layer } from "../gcode/layers";
import type { MoveTable } from "../gcode/moves";
import { eachSample } from "./raster";
import { strandsOf } from "./strands";

/** Rectangles, six figures each: from X, to X (from the middle), from Z, to Z, how far behind the foremost (all mm), and 0. */
export interface Front {
  widthMm: number;
  rectangles: number[];
}

/** So wide is one bar of the picture at least, mm. */
const BAR_MM = 0.5;
/** Depths closer than this are one, mm: finer shading than anybody sees. */
const DEPTH_STEP_MM = 1;
/** How finely a front is drawn: so many bars at most, and about so many rectangles, beyond which layers are drawn several at once. */
export interface Fineness {
  bars: number;
  rectangles: number;
}

const FOR_THE_LOG: Fineness = { bars: 600, rectangles: 60_000 };
/** As fine as can be told apart in a picture of a list. */
export const FOR_A_LIST: Fineness = { bars: 120, rectangles: 4000 };

export function frontOf(
  { moves, layers }: { moves: MoveTable; layers: readonly Layer[] },
  fineness: Fineness = FOR_THE_LOG,
): Front {
  const room = { minX: Infinity, maxX: -Infinity, minY: Infinity };
  for (const { firstPrintMove, lastMove } of layers) {
    for (let i = firstPrintMove; i <= lastMove; i++) {
      if (moves.x[i] < room.minX) room.minX = moves.x[i];
      if (moves.x[i] > room.maxX) room.maxX = moves.x[i];
      if (moves.y[i] < room.minY) room.minY = moves.y[i];
    }
  }
  if (room.minX > room.maxX) return { widthMm: 0, rectangles: [] };
  const widthMm = Math.max(1, room.maxX - room.minX);
  const barMm = Math.max(BAR_MM, widthMm / fineness.bars);
  const bars = Math.ceil(widthMm / barMm) + 1;
  const every = Math.max(1, Math.ceil((layers.length * Math.min(bars, 40)) / fineness.rectangles));
  const middle = (room.minX + room.maxX) / 2;
  const rectangles: number[] = [];
  const open = new Map<string, { from: number; to: number; depth: number; fromZ: number }>();
  const nearest = new Float32Array(bars);
  let topMm = 0;
  layers.forEach((layer, index) => {
    if (index % every !== 0 && index !== layers.length - 1) return;
    nearest.fill(Infinity);
    for (const { firstMove, lastMove } of strandsOf(moves, layer)) {
      for (let i = firstMove; i <= lastMove; i++) {
        eachSample(moves, i, barMm, (x, y) => {
          const bar = Math.floor((x - room.minX) / barMm);
          if (bar >= 0 && bar < bars && y < nearest[bar]) nearest[bar] = y;
        });
      }
    }
    const bottomMm = Math.min(topMm, layer.zMm - layer.heightMm);
    const seen = new Set<string>();
    for (let bar = 0; bar < bars;) {
      const depth = Math.round((nearest[bar] - room.minY) / DEPTH_STEP_MM);
      let end = bar + 1;
      while (end < bars && Math.round((nearest[end] - room.minY) / DEPTH_STEP_MM) === depth) end++;
      if (Number.isFinite(depth)) {
        const key = `${bar} ${end} ${depth}`;
        seen.add(key);
        if (!open.has(key)) open.set(key, { from: bar, to: end, depth, fromZ: Math.max(0, bottomMm) });
      }
      bar = end;
    }
    for (const [key, one] of open) if (!seen.has(key)) close(key, one, topMm);
    topMm = layer.zMm;
  });
  for (const [key, one] of open) close(key, one, topMm);
  return { widthMm, rectangles };

  function close(
    key: string,
    { from, to, depth, fromZ }: { from: number; to: number; depth: number; fromZ: number },
    z: number,
  ) {
    open.delete(key);
    if (z <= fromZ) return;
    const x = (bar: number) => Math.round((room.minX + bar * barMm - middle) * 100) / 100;
    rectangles.push(x(from), Math.min(x(to), room.maxX - middle), fromZ, z, depth * DEPTH_STEP_MM, 0);
  }
}
