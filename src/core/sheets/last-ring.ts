/** The ring that was laid last: the nozzle can go on over it, and leaves no string, to where the next one touches it. */
import type { Affine } from "./affine";
import type { Path } from "./path";

/** Pairs of places looked at for the nearest; rings of more faces are looked at in every second, third … place. */
const MOST_PAIRS = 20_000;
/** Nearer than a thousandth of a millimetre is the same place. */
const SAME_MM2 = 1e-6;

export class LastRing {
  private count = 0;
  private x = new Float64Array(512);
  private y = new Float64Array(512);
  private minX = 0;
  private maxX = 0;
  private minY = 0;
  private maxY = 0;

  forget(): void {
    this.count = 0;
  }

  /** The ring as it was laid: from where the nozzle stands now, all round. */
  keep(path: Path, place: Affine, start: number, isBack: boolean): void {
    const faces = path.count - 1;
    if (this.x.length < faces) {
      this.x = new Float64Array(2 * faces);
      this.y = new Float64Array(2 * faces);
    }
    this.count = faces;
    this.minX = this.minY = Infinity;
    this.maxX = this.maxY = -Infinity;
    for (let n = 0; n < faces; n++) {
      const i = (start + (isBack ? faces - n : n)) % faces;
      const x = (this.x[n] = place.xx * path.x[i] + place.xy * path.y[i] + place.x);
      const y = (this.y[n] = place.yx * path.x[i] + place.yy * path.y[i] + place.y);
      if (x < this.minX) this.minX = x;
      if (x > this.maxX) this.maxX = x;
      if (y < this.minY) this.minY = y;
      if (y > this.maxY) this.maxY = y;
    }
  }

  /** Where a ring comes nearer to this one than `withinMm`: the place on either; null where they do not. */
  touch(path: Path, place: Affine, withinMm: number): { own: number; other: number } | null {
    const faces = path.count - 1;
    if (this.count === 0) return null;
    const stride = Math.max(1, Math.ceil(Math.sqrt((this.count * faces) / MOST_PAIRS)));
    let least = withinMm * withinMm;
    let own = -1;
    let other = -1;
    for (let i = 0; i < faces; i += stride) {
      const x = place.xx * path.x[i] + place.xy * path.y[i] + place.x;
      if (x < this.minX - withinMm || x > this.maxX + withinMm) continue;
      const y = place.yx * path.x[i] + place.yy * path.y[i] + place.y;
      if (y < this.minY - withinMm || y > this.maxY + withinMm) continue;
      for (let n = 0; n < this.count; n += stride) {
        const dx = this.x[n] - x;
        const dy = this.y[n] - y;
        const far = dx * dx + dy * dy;
        if (far < least - 1e-9) {
          least = far;
          own = n;
          other = i;
          if (least < SAME_MM2) return { own, other };
        }
      }
    }
    return own < 0 ? null : { own, other };
  }

  /** Places along the ring from where the nozzle stands to one of them, the shorter way round. */
  *wayTo(own: number): Generator<{ x: number; y: number }> {
    const isForward = own <= this.count / 2;
    for (let n = isForward ? 1 : this.count - 1; isForward ? n <= own : n >= own; n += isForward ? 1 : -1)
      yield { x: this.x[n], y: this.y[n] };
  }
}
