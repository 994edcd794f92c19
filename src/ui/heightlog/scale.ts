/** Height on the page: one scale for everything that stands on the log. */

export interface LogScale {
  /** Pixels of one millimetre. */
  pxPerMm: number;
  topMm: number;
  /** Height of the drawing, px. */
  heightPx: number;
  /** Page position of a height, px from the top of the drawing. */
  y(mm: number): number;
  /** The height at a page position, mm. */
  mm(y: number): number;
}

export const LOG_PADDING_TOP = 12;
export const LOG_PADDING_BOTTOM = 22;

/** The scale that fits `topMm` into `roomPx`, magnified by `zoom`, but never wider than the specimen's column allows. */
export function logScale(topMm: number, roomPx: number, zoom: number, widest?: { mm: number; px: number }): LogScale {
  const fit = (roomPx - LOG_PADDING_TOP - LOG_PADDING_BOTTOM) / Math.max(1, topMm);
  const limited = widest ? Math.min(fit, widest.px / widest.mm) : fit;
  const pxPerMm = limited * zoom;
  const heightPx = topMm * pxPerMm + LOG_PADDING_TOP + LOG_PADDING_BOTTOM;
  return {
    pxPerMm,
    topMm,
    heightPx,
    y: (mm) => LOG_PADDING_TOP + (topMm - mm) * pxPerMm,
    mm: (y) => topMm - (y - LOG_PADDING_TOP) / pxPerMm,
  };
}

/** A round step of 1, 2 or 5 × 10ⁿ that is at least `least`. */
export function roundStep(least: number): number {
  const power = 10 ** Math.floor(Math.log10(Math.max(least, 1e-9)));
  for (const factor of [1, 2, 5, 10]) if (factor * power >= least * 0.999) return factor * power;
  return 10 * power;
}
