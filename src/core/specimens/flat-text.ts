/** Digits laid flat on the bed, one bead a stroke. */
import { beadsOf } from "./digits";
import { Track } from "../printing/track";

/** Tracks that write `text` with its lower left corner at `x`, `y`; digits `heightMm` high. */
export function flatText(
  text: string,
  x: number,
  y: number,
  heightMm: number,
  beadWidthMm: number,
  spot?: number,
): Track[] {
  const widthMm = heightMm * 0.5;
  const tracks: Track[] = [];
  let left = x;
  for (const sign of text) {
    if (sign === ".") {
      tracks.push({
        points: [
          { x: left, y },
          { x: left, y: y + heightMm * 0.15 },
        ],
        widthMm: beadWidthMm,
        spot,
      });
      left += heightMm * 0.3;
      continue;
    }
    for (const { x0, y0, x1, y1 } of beadsOf(sign)) {
      tracks.push({
        points: [
          { x: left + x0 * widthMm, y: y + (y0 * heightMm) / 2 },
          { x: left + x1 * widthMm, y: y + (y1 * heightMm) / 2 },
        ],
        widthMm: beadWidthMm,
        spot,
      });
    }
    left += widthMm + heightMm * 0.3;
  }
  return tracks;
}
