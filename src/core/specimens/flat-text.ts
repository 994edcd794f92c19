/** Digits laid flat on the bed, every sign in as few lines as it can be drawn with. */
import { trailsOf } from "./digits";
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
        isText: true,
      });
      left += heightMm * 0.3;
      continue;
    }
    for (const trail of trailsOf(sign)) {
      const points = trail.map((point) => ({ x: left + point.x * widthMm, y: y + (point.y * heightMm) / 2 }));
      tracks.push({ points, widthMm: beadWidthMm, spot, isText: true });
    }
    left += widthMm + heightMm * 0.3;
  }
  return tracks;
}
