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

/** A band lower than this on the page has no room for its value and the note below it. */
const READABLE_BAND_PX = 46;

/**
 * The scale that fits `topMm` into `roomPx`, magnified by `zoom`. A specimen is drawn to scale, no wider than its column; where that
 * would leave its bands too low to read, heights are stretched.
 */
export function logScale(
  topMm: number,
  roomPx: number,
  zoom: number,
  specimen?: { widthMm: number; px: number; lowestBandMm: number },
): LogScale {
  const fit = (roomPx - LOG_PADDING_TOP - LOG_PADDING_BOTTOM) / Math.max(1, topMm);
  const toScale = specimen ? Math.min(fit, specimen.px / specimen.widthMm) : fit;
  const readable = specimen ? READABLE_BAND_PX / specimen.lowestBandMm : 0;
  const pxPerMm = Math.min(fit, Math.max(toScale, readable)) * zoom;
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
