import { bedDepthMm, Printer } from "../shelf/printer";

/** Room kept free at the edges of the bed, and for the prime line in front. */
const EDGE_MM = 8;
const FRONT_EDGE_MM = 16;

/** The largest upright rectangle round the middle of the bed that a piece may take, mm. */
export function roomOn(printer: Printer): { widthMm: number; depthMm: number } {
  const across = printer.bedShape === "round" ? Math.SQRT1_2 : 1;
  return {
    widthMm: printer.bedWidthMm * across - 2 * EDGE_MM,
    depthMm: bedDepthMm(printer) * across - 2 * FRONT_EDGE_MM,
  };
}
