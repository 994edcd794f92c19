/** The strands of a layer: what is laid without a break, closed rings apart from what is drawn on behind them. */
import { Layer } from "../gcode/layers";
import { laysMaterial, MoveTable } from "../gcode/moves";
import { filamentAreaMm2, USUAL_FILAMENT_MM } from "../material/bead";

/** A bead is no narrower and no wider than this, mm; figures beyond it are no width but a strange file. Common practice, no source. */
const NARROWEST_MM = 0.15;
const WIDEST_MM = 2;
const USUAL_WIDTH_MM = 0.45;
const FEWEST_RING_MOVES = 3;
/** Of a seam, in beads. Common practice, no source. */
const WIDEST_SEAM = 2.5;

export interface Strand {
  /** First and last move; all between them lay material too. */
  firstMove: number;
  lastMove: number;
  /** It comes back to where it began. */
  isClosed: boolean;
  lengthMm: number;
  filamentMm: number;
  /** Width of its bead as laid, mm. */
  widthMm: number;
}

/** Where a move begins. */
export const fromX = ({ x }: MoveTable, move: number) => (move === 0 ? 0 : x[move - 1]);
export const fromY = ({ y }: MoveTable, move: number) => (move === 0 ? 0 : y[move - 1]);

/** Its length in the plane, mm. */
export const flatMm = (moves: MoveTable, move: number) =>
  Math.hypot(moves.x[move] - fromX(moves, move), moves.y[move] - fromY(moves, move));

/**
 * The strands of a layer in their order. A ring ends where it meets its own beginning, within half a bead; a break is any move that
 * lays nothing.
 *
 * @param filamentDiameterMm thickness of the filament, for the widths of beads
 */
export function strandsOf(
  moves: MoveTable,
  { firstPrintMove, lastMove, heightMm }: Layer,
  filamentDiameterMm = USUAL_FILAMENT_MM,
): Strand[] {
  const strands: Strand[] = [];
  const area = filamentAreaMm2(filamentDiameterMm);
  let first = -1;
  let lengthMm = 0;
  let filamentMm = 0;
  const end = (last: number, isRing: boolean) => {
    const widthMm = widthOf((area * filamentMm) / lengthMm, heightMm);
    // A wall that ends a little before its beginning leaves its seam a gap.
    const gapMm = Math.hypot(moves.x[last] - fromX(moves, first), moves.y[last] - fromY(moves, first));
    const hasSeam = last - first >= FEWEST_RING_MOVES - 1 && gapMm < WIDEST_SEAM * widthMm && lengthMm > 40 * gapMm;
    const isClosed = isRing || hasSeam;
    if (lengthMm > 1e-6) strands.push({ firstMove: first, lastMove: last, isClosed, lengthMm, filamentMm, widthMm });
    first = -1;
    lengthMm = filamentMm = 0;
  };
  for (let i = firstPrintMove; i <= lastMove; i++) {
    if (!laysMaterial(moves.kind[i])) {
      if (first >= 0) end(i - 1, false);
      continue;
    }
    if (first < 0) first = i;
    lengthMm += flatMm(moves, i);
    filamentMm += moves.filamentMm[i];
    if (i - first < FEWEST_RING_MOVES - 1) continue;
    const gapMm = Math.hypot(moves.x[i] - fromX(moves, first), moves.y[i] - fromY(moves, first));
    const widthMm = widthOf((area * filamentMm) / lengthMm, heightMm);
    if (gapMm < widthMm / 2 && lengthMm > 6 * widthMm) end(i, true);
  }
  if (first >= 0) end(lastMove, false);
  return strands;
}

/** Width of a bead with round sides by its cross-section, mm: area / h + (1 − π/4)·h, the inverse of `beadAreaMm2`. */
function widthOf(areaMm2: number, heightMm: number): number {
  const widthMm = areaMm2 / heightMm + (1 - Math.PI / 4) * heightMm;
  return widthMm > NARROWEST_MM && widthMm < WIDEST_MM ? widthMm : USUAL_WIDTH_MM;
}
