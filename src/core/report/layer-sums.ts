/** What each layer takes, and the room of a program: sums over its moves. */
import { laysMaterial, MoveKind } from "../gcode/moves";
import type { ProgramTables } from "../gcode/read";
import { toolsOfMoves } from "../heightplan/proof";

export interface LayerReport {
  index: number;
  /** Height of its top, mm. */
  zMm: number;
  heightMm: number;
  seconds: number;
  /** Filament fed, mm. */
  filamentMm: number;
  /** Filament the fastest laying move asks for, mm/s. */
  peakFilamentMmS: number;
  /** Room its material takes, bed coordinates, mm. */
  minX: number;
  maxX: number;
  minY: number;
  maxY: number;
  /** Line (from 1) and byte where a change for this layer must stand. */
  insertLine: number;
  insertByte: number;
  /** Number in the comment that opens it. */
  marker?: number;
  /** Filament by tool, mm; only in programs of several tools. */
  tools?: [tool: number, mm: number][];
}

export interface Bounds {
  minX: number;
  minY: number;
  minZ: number;
  maxX: number;
  maxY: number;
  maxZ: number;
}

export interface LayerSums {
  layers: LayerReport[];
  /** Room of what is laid in layers, and of all moves; null where there is none. */
  bounds: Bounds | null;
  travelBounds: Bounds | null;
  /** s. */
  total: number;
}

/** @param seconds how long each move takes */
export function layerSums(tables: ProgramTables, seconds: Float32Array): LayerSums {
  const { moves, layers } = tables;
  const { count, kind, layer: layerOf, filamentMm, feedMmS } = moves;
  const isOfSeveral = tables.filamentPerToolMm.filter((mm) => mm > 0).length > 1;
  const tools = isOfSeveral ? toolsOfMoves(tables) : null;
  const byTool: [tool: number, mm: number][][] = tools ? layers.map(() => []) : [];
  // Sums stand in columns: millions of moves are added to thousands of layers.
  const column = (from: number) => new Float64Array(layers.length).fill(from);
  const [took, fed, peak] = [column(0), column(0), column(0)];
  const [minX, minY, maxX, maxY] = [column(Infinity), column(Infinity), column(-Infinity), column(-Infinity)];
  const [laid, all] = [new Room(), new Room()];
  const run = new LaidRun();
  let total = 0;
  let x = 0;
  let y = 0;
  for (let i = 0; i < count; i++) {
    total += seconds[i];
    const fromX = x;
    const fromY = y;
    x = moves.x[i];
    y = moves.y[i];
    if (kind[i] === MoveKind.home) continue;
    const z = moves.z[i];
    all.take(x, y, z);
    const layer = layerOf[i];
    if (layer < 0) continue;
    took[layer] += seconds[i];
    if (!laysMaterial(kind[i])) continue;
    fed[layer] += filamentMm[i];
    if (tools) addTo(byTool[layer], tools[i], filamentMm[i]);
    const length = Math.sqrt((x - fromX) * (x - fromX) + (y - fromY) * (y - fromY));
    const asked = run.asked(i, length, filamentMm[i], feedMmS[i]);
    if (asked > peak[layer]) peak[layer] = asked;
    if (x < minX[layer]) minX[layer] = x;
    if (fromX < minX[layer]) minX[layer] = fromX;
    if (x > maxX[layer]) maxX[layer] = x;
    if (fromX > maxX[layer]) maxX[layer] = fromX;
    if (y < minY[layer]) minY[layer] = y;
    if (fromY < minY[layer]) minY[layer] = fromY;
    if (y > maxY[layer]) maxY[layer] = y;
    if (fromY > maxY[layer]) maxY[layer] = fromY;
    laid.take(x, y, z);
    laid.take(fromX, fromY, z);
  }
  return {
    total,
    bounds: laid.bounds(),
    travelBounds: all.bounds(),
    layers: layers.map(({ index, zMm, heightMm, insertLine, insertByte, marker }, i) => ({
      index,
      zMm,
      heightMm,
      seconds: took[i],
      filamentMm: fed[i],
      peakFilamentMmS: peak[i],
      minX: minX[i],
      maxX: maxX[i],
      minY: minY[i],
      maxY: maxY[i],
      insertLine: insertLine + 1,
      insertByte,
      ...(marker === undefined ? {} : { marker }),
      ...(byTool[i]?.length > 0 ? { tools: byTool[i] } : {}),
    })),
  };
}

/** The room that places take. */
class Room {
  private minX = Infinity;
  private minY = Infinity;
  private minZ = Infinity;
  private maxX = -Infinity;
  private maxY = -Infinity;
  private maxZ = -Infinity;

  take(x: number, y: number, z: number): void {
    if (x < this.minX) this.minX = x;
    if (x > this.maxX) this.maxX = x;
    if (y < this.minY) this.minY = y;
    if (y > this.maxY) this.maxY = y;
    if (z < this.minZ) this.minZ = z;
    if (z > this.maxZ) this.maxZ = z;
  }

  bounds(): Bounds | null {
    const { minX, minY, minZ, maxX, maxY, maxZ } = this;
    return minX <= maxX ? { minX, minY, minZ, maxX, maxY, maxZ } : null;
  }
}

/** Specks never come to their speed; but a fine curve is laid of nothing else. */
const SPECK_MM = 1;

/** Filament that is asked for along what is laid without a break: short moves count as one, as soon as they are long enough together. */
class LaidRun {
  private last = -2;
  private lengthMm = 0;
  private filamentMm = 0;
  private feedMmS = Infinity;

  /** mm/s of filament; 0 for a speck. */
  asked(move: number, lengthMm: number, filamentMm: number, feedMmS: number): number {
    if (lengthMm > SPECK_MM) {
      this.begin();
      return (filamentMm / lengthMm) * feedMmS;
    }
    if (move !== this.last + 1) this.begin();
    this.last = move;
    this.lengthMm += lengthMm;
    this.filamentMm += filamentMm;
    if (feedMmS < this.feedMmS) this.feedMmS = feedMmS;
    if (this.lengthMm <= SPECK_MM) return 0;
    const asked = (this.filamentMm / this.lengthMm) * this.feedMmS;
    this.begin();
    return asked;
  }

  private begin(): void {
    this.lengthMm = 0;
    this.filamentMm = 0;
    this.feedMmS = Infinity;
  }
}

function addTo(tools: [tool: number, mm: number][], tool: number, mm: number): void {
  const known = tools.find(([one]) => one === tool);
  if (known) known[1] += mm;
  else tools.push([tool, mm]);
}
