/** What lies in a layer, cell by cell: which move covers each. One raster is used again from layer to layer. */
import { Layer } from "../gcode/layers";
import { MoveTable } from "../gcode/moves";
import { fromX, fromY, Strand } from "./strands";

/** Side of a cell, mm; it grows for pieces that would have more than `MOST_CELLS`. */
const CELL_MM = 0.15;
const MOST_CELLS = 4_000_000;
/** Room round the middles of the strands: half of it is looked at, the rest keeps discs inside. */
const MARGIN_MM = 2.4;
const REACH_MM = MARGIN_MM / 2;

/** The room a layer takes, mm. */
export interface Room {
  minX: number;
  minY: number;
  maxX: number;
  maxY: number;
}

export class LayerRaster {
  cellMm = CELL_MM;
  private perMm = 1 / CELL_MM;
  private room: Room = { minX: 0, minY: 0, maxX: -1, maxY: -1 };
  private columns = 0;
  private rows = 0;
  private cells = new Int32Array(0);

  /** Empties it and lays the strands of a layer: each cell holds the last move that covers it, counted from 1. */
  lay(moves: MoveTable, strands: readonly Strand[]): void {
    this.clearFor(roomOf(moves, strands));
    for (const { firstMove, lastMove, widthMm } of strands) {
      for (let move = firstMove; move <= lastMove; move++) this.paint(moves, move, widthMm, move + 1);
    }
  }

  /** Empties it for a room, without laying anything. */
  clearFor(room: Room): void {
    this.room = {
      minX: room.minX - MARGIN_MM,
      minY: room.minY - MARGIN_MM,
      maxX: room.maxX + MARGIN_MM,
      maxY: room.maxY + MARGIN_MM,
    };
    const width = Math.max(0, this.room.maxX - this.room.minX);
    const depth = Math.max(0, this.room.maxY - this.room.minY);
    this.cellMm = Math.max(CELL_MM, Math.sqrt((width * depth) / MOST_CELLS));
    this.perMm = 1 / this.cellMm;
    this.columns = Math.ceil(width / this.cellMm) + 1;
    this.rows = Math.ceil(depth / this.cellMm) + 1;
    const count = this.columns * this.rows;
    if (this.cells.length < count) this.cells = new Int32Array(count);
    else this.cells.fill(0, 0, count);
  }

  /**
   * Covers what a move lays with a number, in the width of its bead: row by row the stretch of cells whose middles lie within half a width
   * of the line. The outline of such a stadium is two straight edges and two round ends; each row ends on one of them.
   */
  paint(moves: MoveTable, move: number, widthMm: number, number: number): void {
    const { cells, columns, cellMm } = this;
    const { minX, minY } = this.room;
    const radius = Math.min(widthMm / 2, REACH_MM) / cellMm;
    const [x0, y0] = [(fromX(moves, move) - minX) / cellMm, (fromY(moves, move) - minY) / cellMm];
    const [x1, y1] = [(moves.x[move] - minX) / cellMm, (moves.y[move] - minY) / cellMm];
    const length = Math.hypot(x1 - x0, y1 - y0);
    const [normalX, normalY] = length > 0 ? [(y0 - y1) / length, (x1 - x0) / length] : [0, 0];
    const [edgeX, edgeY] = [normalX * radius, normalY * radius];
    const slope = y1 === y0 ? 0 : (x1 - x0) / (y1 - y0);
    const [lowY, highY] = y0 < y1 ? [y0, y1] : [y1, y0];
    const first = Math.max(0, Math.ceil(lowY - radius));
    const last = Math.min(this.rows - 1, Math.floor(highY + radius));
    const lastColumn = columns - 1;
    // Between the ends a row runs from one straight edge to the other: most rows of a long line.
    const fromBetween = Math.max(first, Math.ceil(lowY + radius));
    const toBetween = Math.min(last, Math.floor(highY - radius));
    for (let row = first; row <= last; row++) {
      if (row === fromBetween && row <= toBetween) {
        const half = Math.abs(edgeX - edgeY * slope);
        const middle = x0 - y0 * slope;
        for (; row <= toBetween; row++) {
          const x = middle + row * slope;
          const start = row * columns;
          const end = start + Math.min(lastColumn, Math.floor(x + half));
          for (let cell = start + Math.max(0, Math.ceil(x - half)); cell <= end; cell++) cells[cell] = number;
        }
        if (row > last) break;
      }
      let from = Infinity;
      let to = -Infinity;
      const above0 = row - y0;
      const above1 = row - y1;
      if (above0 <= radius && above0 >= -radius) {
        const reach = Math.sqrt(radius * radius - above0 * above0);
        from = x0 - reach;
        to = x0 + reach;
      }
      if (above1 <= radius && above1 >= -radius) {
        const reach = Math.sqrt(radius * radius - above1 * above1);
        if (x1 - reach < from) from = x1 - reach;
        if (x1 + reach > to) to = x1 + reach;
      }
      if (row >= lowY + edgeY && row <= highY + edgeY) {
        const x = x0 + edgeX + (above0 - edgeY) * slope;
        if (x < from) from = x;
        if (x > to) to = x;
      }
      if (row >= lowY - edgeY && row <= highY - edgeY) {
        const x = x0 - edgeX + (above0 + edgeY) * slope;
        if (x < from) from = x;
        if (x > to) to = x;
      }
      const start = row * columns;
      const end = start + Math.min(lastColumn, Math.floor(to));
      for (let cell = start + Math.max(0, Math.ceil(from)); cell <= end; cell++) cells[cell] = number;
    }
  }

  /** What covers a place: a move, counted from 1; 0 for nothing. */
  at(x: number, y: number): number {
    const at = this.indexAt(x, y);
    return at < 0 ? 0 : this.cells[at];
  }

  /** Whether nothing lies within `radiusMm` of a place. */
  isEmptyAround(x: number, y: number, radiusMm: number): boolean {
    const at = this.indexAt(x, y);
    if (at < 0) return true;
    const { cells } = this;
    const disc = this.discOf(radiusMm);
    for (let i = 0; i < disc.length; i++) if (cells[at + disc[i]] !== 0) return false;
    return true;
  }

  private discs = new Map<number, Int32Array>();
  private discColumns = 0;
  private discCellMm = 0;

  /** Offsets of the cells whose middles lie within a radius. */
  private discOf(radiusMm: number): Int32Array {
    if (this.discColumns !== this.columns || this.discCellMm !== this.cellMm) {
      this.discs.clear();
      this.discColumns = this.columns;
      this.discCellMm = this.cellMm;
    }
    const key = Math.round((radiusMm / this.cellMm) * 4);
    let disc = this.discs.get(key);
    if (!disc) {
      const reach = Math.min(key / 4, REACH_MM / this.cellMm - 1);
      const offsets: number[] = [];
      for (let row = -Math.floor(reach); row <= reach; row++) {
        for (let column = -Math.floor(reach); column <= reach; column++) {
          if (row * row + column * column <= reach * reach) offsets.push(row * this.columns + column);
        }
      }
      disc = Int32Array.from(offsets);
      this.discs.set(key, disc);
    }
    return disc;
  }

  /** The cell of a place; -1 where nothing of the layer reaches. */
  private indexAt(x: number, y: number): number {
    const { minX, minY, maxX, maxY } = this.room;
    if (x < minX + REACH_MM || x > maxX - REACH_MM || y < minY + REACH_MM || y > maxY - REACH_MM) return -1;
    const { perMm } = this;
    return (((y - minY) * perMm + 0.5) | 0) * this.columns + (((x - minX) * perMm + 0.5) | 0);
  }
}

/** The room of the strands' middles, mm. */
export function roomOf(moves: MoveTable, strands: readonly Strand[]): Room {
  const room = { minX: Infinity, minY: Infinity, maxX: -Infinity, maxY: -Infinity };
  const take = (x: number, y: number) => {
    if (x < room.minX) room.minX = x;
    if (x > room.maxX) room.maxX = x;
    if (y < room.minY) room.minY = y;
    if (y > room.maxY) room.maxY = y;
  };
  for (const { firstMove, lastMove } of strands) {
    take(fromX(moves, firstMove), fromY(moves, firstMove));
    for (let i = firstMove; i <= lastMove; i++) take(moves.x[i], moves.y[i]);
  }
  return room.minX > room.maxX ? { minX: 0, minY: 0, maxX: 0, maxY: 0 } : room;
}

/** Places along a move, `stepMm` apart or closer, from its beginning to its end. */
export function eachSample(
  moves: MoveTable,
  move: number,
  stepMm: number,
  take: (x: number, y: number, alongMm: number) => void,
): void {
  const [x, y] = [fromX(moves, move), fromY(moves, move)];
  const [dx, dy] = [moves.x[move] - x, moves.y[move] - y];
  const lengthMm = Math.hypot(dx, dy);
  const steps = Math.max(1, Math.ceil(lengthMm / stepMm));
  for (let i = 0; i <= steps; i++) take(x + (dx * i) / steps, y + (dy * i) / steps, (lengthMm * i) / steps);
}

/** The layers of a program from the bed up, each with its strands laid out and the raster of the one below. */
export function* eachLayer(
  moves: MoveTable,
  layers: readonly Layer[],
  strands: (layer: Layer) => Strand[],
): Generator<{ layer: Layer; strands: Strand[]; raster: LayerRaster; below: LayerRaster | null }> {
  let raster = new LayerRaster();
  let below = new LayerRaster();
  for (const layer of layers) {
    const own = strands(layer);
    raster.lay(moves, own);
    yield { layer, strands: own, raster, below: layer.index > 0 ? below : null };
    [raster, below] = [below, raster];
  }
}
