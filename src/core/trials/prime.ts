/** What happens to the filament before and behind the piece: what one print leaves, the next knows. */
import { ByteWriter } from "../gcode/write";
import { MoveKind, MoveTable } from "../gcode/moves";
import { Point } from "../geometry/polygons";
import { filamentAreaMm2 } from "../material/bead";
import { Process } from "../printing/process";
import { bedDepthMm, outsideBedMm, Printer } from "../shelf/printer";
import { PieceShape } from "../specimens/specimen";
import { plainNumber } from "../units";

const PRIME_MM = 60;
/** What fills the nozzle whatever it had lost, mm³: 10 to 20 mm of 1.75 mm filament (common practice, no source). */
const PRIME_MM3 = 36;
const PRIME_GAP_MM = 9;
const EDGE_MM = 4;
/** Between the way there and the way back, at least. */
const LEAST_PASS_MM = 1.6;
/** Beads of a first layer lie so much further apart than they are wide, mm. */
const PASS_GAP_MM = 0.1;
/** Every print ends drawn back by so much, and every print begins by giving it back. */
export const REST_MM = 1;

/** Cross-section of each of the two passes, mm². */
const PRIME_AREA_MM2 = PRIME_MM3 / (2 * PRIME_MM);

export interface PrimeLine {
  from: Point;
  to: Point;
}

/** Where the nozzle is filled: there and back along the front edge of the bed, clear of the piece as far as the bed allows. */
export function primeLine(process: Process, printer: Printer, centre: Point, shape: PieceShape): PrimeLine {
  const brimMm = process.brimRings * process.beadWidthMm;
  const pieceFront = centre.y - shape.depthMm / 2 - PRIME_GAP_MM - brimMm;
  let y = Math.min(pieceFront, centre.y - bedDepthMm(printer) / 2 + EDGE_MM);
  const x = centre.x - PRIME_MM / 2;
  const passMm = Math.max(LEAST_PASS_MM, PRIME_AREA_MM2 / process.firstLayerHeightMm + PASS_GAP_MM);
  while (y < centre.y && (outsideBedMm(printer, x, y) > -2 || outsideBedMm(printer, x + PRIME_MM, y) > -2)) y += 1;
  return { from: { x, y }, to: { x, y: y + passMm } };
}

/** Gives back what the last print left, lays the lines and draws the filament back, as the first layer will give it back. */
export function writePrime(out: ByteWriter, first: Process, { from, to }: PrimeLine): void {
  const z = first.firstLayerHeightMm;
  const fed = plainNumber((PRIME_AREA_MM2 * PRIME_MM) / filamentAreaMm2(first.filamentDiameterMm), 5);
  const feed = Math.round(Math.min(first.firstLayerMmS, primeMmS(first)) * 60);
  const drawn = Math.round(first.retractionMmS * 60);
  out.line(`; prime the nozzle; a print before this one ended drawn back by ${REST_MM} mm`);
  out.line(`G0 X${plainNumber(from.x)} Y${plainNumber(from.y)} F${Math.round(first.travelMmS * 60)}`);
  out.line(`G0 Z${plainNumber(z)} F${Math.round(first.liftMmS * 60)}`);
  out.line(`G1 E${REST_MM} F${drawn}`);
  out.line(`G1 X${plainNumber(from.x + PRIME_MM)} E${fed} F${feed}`);
  out.line(`G0 Y${plainNumber(to.y)}`);
  out.line(`G1 X${plainNumber(to.x)} E${fed} F${feed}`);
  if (first.firmwareRetraction) out.line("G10");
  else if (first.retractionMm > 0) out.line(`G1 E${plainNumber(-first.retractionMm, 5)} F${drawn}`);
}

/** How fast a bead so fat is laid, mm/s: as much a second as the outer wall takes. */
function primeMmS({ outerWallMmS, beadWidthMm, layerHeightMm }: Process): number {
  return (outerWallMmS * beadWidthMm * layerHeightMm) / PRIME_AREA_MM2;
}

/** The line that leaves the filament drawn back by what the next print expects; none if it is already. */
export function restLines(moves: MoveTable, process: Process): string[] {
  const drawn = Math.round(process.retractionMmS * 60);
  if (process.firmwareRetraction) return ["G11", `G1 E-${REST_MM} F${drawn}`];
  let backMm = 0;
  for (let i = moves.count - 1; i >= 0 && backMm === 0; i--) {
    if (moves.kind[i] === MoveKind.retract) backMm = -moves.filamentMm[i];
    else if (moves.filamentMm[i] > 0) break;
  }
  const over = backMm - REST_MM;
  return Math.abs(over) < 1e-6 ? [] : [`G1 E${plainNumber(over, 5)} F${drawn}`];
}
