/** A photo of a piece, and how it is laid on the height axis: turned and made larger or smaller, nothing else. */

export const sides = ["front", "back"] as const;
export type Side = (typeof sides)[number];

/** In pixels of the picture, from its top left corner. */
export type Pixel = [x: number, y: number];

/** Where the bottom and the top edge of the piece lie. */
export interface PhotoPlace {
  bottom: Pixel;
  top: Pixel;
}

export interface Photo extends PhotoPlace {
  id: number;
  runId: number;
  side: Side;
  widthPx: number;
  heightPx: number;
  takenAt: string;
  version: number;
}

/** Two places nearer than this are one: nothing can be laid by them. */
export const LEAST_APART_PX = 8;

/** Until somebody says where the piece lies: upright in the middle, most of the picture high. */
export function firstPlace({ widthPx, heightPx }: { widthPx: number; heightPx: number }): PhotoPlace {
  const x = widthPx / 2;
  return { bottom: [x, heightPx * 0.92], top: [x, heightPx * 0.08] };
}

/**
 * The similarity that lays the picture so that its bottom place comes to `bottomAt` and its top place straight above it at `topAt`
 * (both px down, at `x` px across): a, b, c, d, e, f of the matrix in CSS Transforms Module Level 1 (W3C), x' = a·x + c·y + e, y' = b·x + d·y + f.
 */
export function layMatrix({ bottom, top }: PhotoPlace, at: { x: number; bottom: number; top: number }): number[] {
  const [ux, uy] = [top[0] - bottom[0], top[1] - bottom[1]];
  const square = ux * ux + uy * uy || 1;
  const rise = at.top - at.bottom;
  // As complex numbers: (0 + i·rise) / (ux + i·uy) is what the picture is multiplied with.
  const [re, im] = [(rise * uy) / square, (rise * ux) / square];
  const [a, b, c, d] = [re, im, -im, re];
  return [a, b, c, d, at.x - a * bottom[0] - c * bottom[1], at.bottom - b * bottom[0] - d * bottom[1]];
}
