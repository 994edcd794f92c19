/** The line that fills the nozzle before the piece is begun. */
import { ByteWriter } from "../gcode/write";
import { Point } from "../geometry/polygons";
import { filamentAreaMm2 } from "../material/bead";
import { laidAreaMm2, Process } from "../printing/process";
import { outsideBedMm, Printer } from "../shelf/printer";
import { PieceShape } from "../specimens/specimen";
import { plainNumber } from "../units";

const PRIME_MM = 50;
const PRIME_GAP_MM = 9;
/** So much wider than a usual bead, so that nothing old is left in the nozzle. */
const PRIME_SHARE = 1.3;

export interface PrimeLine {
  from: Point;
  to: Point;
}

/** Where the nozzle is filled: in front of the piece, inside the bed. */
export function primeLine(process: Process, printer: Printer, centre: Point, shape: PieceShape): PrimeLine {
  const brimMm = process.brimRings * process.beadWidthMm;
  let y = centre.y - shape.depthMm / 2 - PRIME_GAP_MM - brimMm;
  const x = centre.x - PRIME_MM / 2;
  while (y < centre.y && (outsideBedMm(printer, x, y) > -2 || outsideBedMm(printer, x + PRIME_MM, y) > -2)) y += 1;
  return { from: { x, y }, to: { x: x + PRIME_MM, y } };
}

/** Lays the line and draws the filament back, as the first layer will give it back. */
export function writePrime(out: ByteWriter, first: Process, { from, to }: PrimeLine): void {
  const z = first.firstLayerHeightMm;
  const area = laidAreaMm2(first, z, false) * PRIME_SHARE;
  const fed = (PRIME_MM * area) / filamentAreaMm2(first.filamentDiameterMm);
  out.line("; prime the nozzle");
  out.line(`G0 X${plainNumber(from.x)} Y${plainNumber(from.y)} F${Math.round(first.travelMmS * 60)}`);
  out.line(`G0 Z${plainNumber(z)} F${Math.round(first.liftMmS * 60)}`);
  out.line(`G1 X${plainNumber(to.x)} E${plainNumber(fed, 5)} F${Math.round(first.firstLayerMmS * 60)}`);
  if (first.firmwareRetraction) out.line("G10");
  else if (first.retractionMm > 0) {
    out.line(`G1 E${plainNumber(-first.retractionMm, 5)} F${Math.round(first.retractionMmS * 60)}`);
  }
}
