/**
 * Would the nozzle or the head strike what is already printed? A height map of everything laid so far, and the underside of the head
 * (a cone round the tip, then a flat body) held over it along every move that goes below the highest point.
 */
import { laysMaterial, MoveKind, MoveTable } from "../gcode/moves";

export interface HeadShape {
  /** Radius of the nozzle's flat tip, mm. */
  tipRadiusMm: number;
  /** Flank of the nozzle's cone against the horizontal. */
  coneDegrees: number;
  /** The body above: how far it reaches from the nozzle's axis, and how high over the tip it hangs. */
  radiusMm: number;
  heightMm: number;
}

export interface Strike {
  move: number;
  /** Where the nozzle is, bed coordinates, mm. */
  x: number;
  y: number;
  z: number;
  /** How high the material stands, and how far from the nozzle's axis. */
  materialMm: number;
  besideMm: number;
  part: "nozzle" | "head";
}

export interface SteepMove {
  move: number;
  degrees: number;
}

const CELL_MM = 1;
const BLOCK_CELLS = 16;
const MOST_CELLS = 6_000_000;
/** What lies further out than this is on no bed; another check says so. */
const FURTHEST_MM = 5000;
/** Steps along moves, over the whole program. A program within its bed takes a hundredth of it. */
const MOST_STEPS = 600_000_000;
/** Beads are never laid to the micrometre: what stands out less is no strike. */
const TOLERANCE_MM = 0.05;
/** A laying move shorter than this sideways is a blob, not a slope. */
const SHORTEST_SLOPE_MM = 0.2;

/** Height of the head's underside over the tip at a distance from the axis, mm; infinite beyond the head. */
export function undersideMm({ tipRadiusMm, coneDegrees, radiusMm, heightMm }: HeadShape, distanceMm: number): number {
  if (distanceMm > radiusMm) return Infinity;
  if (distanceMm <= tipRadiusMm) return 0;
  return Math.min(heightMm, (distanceMm - tipRadiusMm) * Math.tan((coneDegrees * Math.PI) / 180));
}

/** What was found along a program. `gaveUp`: its moves are so long and many that it was not looked at to the end. */
export interface Strikes {
  strike: Strike | null;
  steep: SteepMove | null;
  gaveUp: boolean;
}

/** The first strike and the first laying move steeper than the cone; null where there is none. */
export function findStrikes(moves: MoveTable, head: HeadShape): Strikes {
  const steep = firstSteep(moves, head.coneDegrees);
  const dives = firstDive(moves);
  // Layer by layer nothing ever goes below what is printed: no map is needed.
  return dives < 0 ? { strike: null, gaveUp: false, steep } : { ...firstStrike(moves, head, dives), steep };
}

function firstSteep({ count, x, y, z, kind }: MoveTable, coneDegrees: number): SteepMove | null {
  const steepest = Math.tan((coneDegrees * Math.PI) / 180);
  for (let i = 1; i < count; i++) {
    const rise = Math.abs(z[i] - z[i - 1]);
    if (rise < 0.01 || !laysMaterial(kind[i])) continue;
    const run = Math.hypot(x[i] - x[i - 1], y[i] - y[i - 1]);
    if (run > SHORTEST_SLOPE_MM && rise > run * steepest) {
      return { move: i, degrees: (Math.atan2(rise, run) * 180) / Math.PI };
    }
  }
  return null;
}

/** Index of the first move that ends below what is already laid somewhere; -1 if there is none. */
function firstDive({ count, z, kind }: MoveTable): number {
  let highest = -Infinity;
  for (let i = 1; i < count; i++) {
    if (kind[i] === MoveKind.home) continue;
    if (z[i] < highest - TOLERANCE_MM) return i;
    if (laysMaterial(kind[i]) && z[i] > highest) highest = z[i];
  }
  return -1;
}

/** Whether a move runs where a bed can be. */
function isOnBed({ x, y, z }: MoveTable, i: number): boolean {
  const near = (at: number) => at >= -FURTHEST_MM && at <= FURTHEST_MM;
  return near(x[i]) && near(y[i]) && near(z[i]) && near(x[i - 1]) && near(y[i - 1]) && near(z[i - 1]);
}

function firstStrike(moves: MoveTable, head: HeadShape, dives: number): { strike: Strike | null; gaveUp: boolean } {
  const map = new HeightMap(moves);
  for (let i = 1; i < moves.count; i++) {
    if (moves.kind[i] === MoveKind.home || !isOnBed(moves, i)) continue;
    if (map.stepsLeft < 0) return { strike: null, gaveUp: true };
    if (i >= dives && Math.min(moves.z[i], moves.z[i - 1]) < map.highest - TOLERANCE_MM) {
      const strike = map.strikeAlong(moves, i, head);
      if (strike) return { strike, gaveUp: false };
    }
    if (laysMaterial(moves.kind[i])) map.lay(moves, i);
  }
  return { strike: null, gaveUp: false };
}

/** What stands on the bed: the highest material in every cell, and in every block of cells. */
class HeightMap {
  highest = -Infinity;
  stepsLeft = MOST_STEPS;
  private readonly cells: Float32Array;
  private readonly blocks: Float32Array;
  private readonly minX: number;
  private readonly minY: number;
  private readonly columns: number;
  private readonly rows: number;
  private readonly blockColumns: number;
  private readonly cellMm: number;

  constructor(moves: MoveTable) {
    const { count, x, y, kind } = moves;
    let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
    for (let i = 1; i < count; i++) {
      if (!laysMaterial(kind[i]) || !isOnBed(moves, i)) continue;
      minX = Math.min(minX, x[i], x[i - 1]);
      maxX = Math.max(maxX, x[i], x[i - 1]);
      minY = Math.min(minY, y[i], y[i - 1]);
      maxY = Math.max(maxY, y[i], y[i - 1]);
    }
    const area = Math.max(1, (maxX - minX + 2) * (maxY - minY + 2));
    this.cellMm = Math.max(CELL_MM, Math.sqrt(area / MOST_CELLS));
    this.minX = minX - this.cellMm;
    this.minY = minY - this.cellMm;
    this.columns = Math.ceil((maxX - this.minX) / this.cellMm) + 2;
    this.rows = Math.ceil((maxY - this.minY) / this.cellMm) + 2;
    this.blockColumns = Math.ceil(this.columns / BLOCK_CELLS);
    this.cells = new Float32Array(this.columns * this.rows).fill(-Infinity);
    this.blocks = new Float32Array(this.blockColumns * Math.ceil(this.rows / BLOCK_CELLS)).fill(-Infinity);
  }

  /** Enters the material of a move. */
  lay({ x, y, z }: MoveTable, i: number): void {
    const steps = Math.max(1, Math.ceil(Math.hypot(x[i] - x[i - 1], y[i] - y[i - 1]) / (this.cellMm * 0.7)));
    this.stepsLeft -= steps;
    for (let step = 0; step <= steps; step++) {
      const share = step / steps;
      const height = z[i - 1] + (z[i] - z[i - 1]) * share;
      const column = Math.floor((x[i - 1] + (x[i] - x[i - 1]) * share - this.minX) / this.cellMm);
      const row = Math.floor((y[i - 1] + (y[i] - y[i - 1]) * share - this.minY) / this.cellMm);
      const cell = row * this.columns + column;
      if (height <= this.cells[cell]) continue;
      this.cells[cell] = height;
      const block = Math.floor(row / BLOCK_CELLS) * this.blockColumns + Math.floor(column / BLOCK_CELLS);
      if (height > this.blocks[block]) this.blocks[block] = height;
      if (height > this.highest) this.highest = height;
    }
  }

  /** The first strike along a move, start and end included. */
  strikeAlong({ x, y, z }: MoveTable, i: number, head: HeadShape): Strike | null {
    const steps = Math.max(1, Math.ceil(Math.hypot(x[i] - x[i - 1], y[i] - y[i - 1]) / this.cellMm));
    // Looking under the head costs many times what entering a bead does.
    this.stepsLeft -= 20 * steps;
    for (let step = 0; step <= steps; step++) {
      const share = step / steps;
      const at = {
        x: x[i - 1] + (x[i] - x[i - 1]) * share,
        y: y[i - 1] + (y[i] - y[i - 1]) * share,
        z: z[i - 1] + (z[i] - z[i - 1]) * share,
      };
      const hit = this.under(at, head);
      if (hit) return { move: i, ...at, ...hit };
    }
    return null;
  }

  private under(
    at: { x: number; y: number; z: number },
    head: HeadShape,
  ): Pick<Strike, "materialMm" | "besideMm" | "part"> | null {
    const blockMm = BLOCK_CELLS * this.cellMm;
    const [fromColumn, toColumn] = this.blockSpan(at.x - this.minX, head.radiusMm, blockMm, this.blockColumns);
    const [fromRow, toRow] = this.blockSpan(
      at.y - this.minY,
      head.radiusMm,
      blockMm,
      Math.ceil(this.rows / BLOCK_CELLS),
    );
    for (let row = fromRow; row <= toRow; row++) {
      for (let column = fromColumn; column <= toColumn; column++) {
        const highest = this.blocks[row * this.blockColumns + column];
        if (highest <= at.z + TOLERANCE_MM) continue;
        const dx = Math.max(0, this.minX + column * blockMm - at.x, at.x - this.minX - (column + 1) * blockMm);
        const dy = Math.max(0, this.minY + row * blockMm - at.y, at.y - this.minY - (row + 1) * blockMm);
        if (highest <= at.z + undersideMm(head, Math.hypot(dx, dy)) + TOLERANCE_MM) continue;
        const hit = this.underBlock(at, head, row, column);
        if (hit) return hit;
      }
    }
    return null;
  }

  private blockSpan(middle: number, radius: number, blockMm: number, count: number): [number, number] {
    return [
      Math.max(0, Math.floor((middle - radius) / blockMm)),
      Math.min(count - 1, Math.floor((middle + radius) / blockMm)),
    ];
  }

  private underBlock(at: { x: number; y: number; z: number }, head: HeadShape, blockRow: number, blockColumn: number) {
    const lastRow = Math.min(this.rows, (blockRow + 1) * BLOCK_CELLS);
    const lastColumn = Math.min(this.columns, (blockColumn + 1) * BLOCK_CELLS);
    for (let row = blockRow * BLOCK_CELLS; row < lastRow; row++) {
      for (let column = blockColumn * BLOCK_CELLS; column < lastColumn; column++) {
        const materialMm = this.cells[row * this.columns + column];
        if (materialMm <= at.z + TOLERANCE_MM) continue;
        const besideMm = Math.hypot(
          this.minX + (column + 0.5) * this.cellMm - at.x,
          this.minY + (row + 0.5) * this.cellMm - at.y,
        );
        const underside = undersideMm(head, besideMm);
        // A cell's material may stand at its far side: half a cell is given.
        if (materialMm > at.z + Math.max(underside, undersideMm(head, besideMm + this.cellMm * 0.5)) + TOLERANCE_MM) {
          const part: Strike["part"] = underside >= head.heightMm ? "head" : "nozzle";
          return { materialMm, besideMm, part };
        }
      }
    }
    return null;
  }
}
