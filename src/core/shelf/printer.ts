/** One machine as it stands. */
import type { HeaterFigures } from "../material/heat";
import type { Printer } from "./printer-schema";

export type { Printer };

/** Bed coordinates of its middle: half the size from a corner, 0 from a centre origin. */
export function bedCentre(printer: Printer): { x: number; y: number } {
  if (printer.bedOrigin === "centre") return { x: 0, y: 0 };
  return { x: printer.bedWidthMm / 2, y: bedDepthMm(printer) / 2 };
}

/** Y size of the bed; a round bed is as deep as it is wide. */
export function bedDepthMm(printer: Printer): number {
  return printer.bedShape === "round" ? printer.bedWidthMm : printer.bedDepthMm;
}

/**
 * How far the point lies outside the bed, mm; 0 or less is inside.
 *
 * @example
 * outsideBedMm({ ...printer, bedShape: "rectangle", bedOrigin: "corner", bedWidthMm: 220, bedDepthMm: 220 }, 225, 10); // 5
 */
export function outsideBedMm(printer: Printer, x: number, y: number): number {
  const centre = bedCentre(printer);
  const dx = Math.abs(x - centre.x);
  const dy = Math.abs(y - centre.y);
  if (printer.bedShape === "round") return Math.hypot(dx, dy) - printer.bedWidthMm / 2;
  return Math.max(dx - printer.bedWidthMm / 2, dy - printer.bedDepthMm / 2);
}

/** What hangs round and over the nozzle's tip, for the look whether it would strike anything. */
export function headOf(printer: Printer): {
  tipRadiusMm: number;
  coneDegrees: number;
  radiusMm: number;
  heightMm: number;
} {
  return {
    // The flat round the bore is about as wide again as the bore itself (common practice, no source).
    tipRadiusMm: printer.nozzleMm,
    coneDegrees: printer.nozzleConeDegrees,
    radiusMm: printer.headRadiusMm,
    heightMm: printer.headHeightMm,
  };
}

/** How its nozzle heats up and cools down. */
export function heaterOf(printer: Pick<Printer, "heaterRiseCPerS" | "heaterFallCPerS" | "heaterLagS">): HeaterFigures {
  return { riseCPerS: printer.heaterRiseCPerS, fallCPerS: printer.heaterFallCPerS, lagS: printer.heaterLagS };
}
