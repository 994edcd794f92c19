/** From the sheet's places to the bed's: turned, mirrored, shifted. */
export interface Affine {
  xx: number;
  xy: number;
  yx: number;
  yy: number;
  x: number;
  y: number;
}

export const still: Affine = { xx: 1, xy: 0, yx: 0, yy: 1, x: 0, y: 0 };

export const shifted = (x: number, y: number): Affine => ({ ...still, x, y });

/** Turned by `angle` round a place (rotation matrix, plane geometry). */
export function turned(angle: number, x: number, y: number): Affine {
  const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
  return about({ xx: cos, xy: -sin, yx: sin, yy: cos }, x, y);
}

/** Mirrored at the line through a place in the direction `angle` (reflection matrix, plane geometry). */
export function mirrored(angle: number, x: number, y: number): Affine {
  const [cos, sin] = [Math.cos(2 * angle), Math.sin(2 * angle)];
  return about({ xx: cos, xy: sin, yx: sin, yy: -cos }, x, y);
}

const about = (m: Omit<Affine, "x" | "y">, x: number, y: number): Affine => ({
  ...m,
  x: x - m.xx * x - m.xy * y,
  y: y - m.yx * x - m.yy * y,
});

/** First `inner`, then `outer`. */
export const behind = (outer: Affine, inner: Affine): Affine => ({
  xx: outer.xx * inner.xx + outer.xy * inner.yx,
  xy: outer.xx * inner.xy + outer.xy * inner.yy,
  yx: outer.yx * inner.xx + outer.yy * inner.yx,
  yy: outer.yx * inner.xy + outer.yy * inner.yy,
  x: outer.xx * inner.x + outer.xy * inner.y + outer.x,
  y: outer.yx * inner.x + outer.yy * inner.y + outer.y,
});

export const placed = ({ xx, xy, yx, yy, x, y }: Affine, px: number, py: number): [number, number] => [
  xx * px + xy * py + x,
  yx * px + yy * py + y,
];
