/** Segments of strokes laid outside of all that is kept out: cut at its edges, over the gap, or round along it. */
import type { KeptOut, Shape } from "./keep-out";
import type { BeadNow, LaidAs, Nozzle } from "./nozzle";

export class Segments {
  /** Where the stroke at hand was cut, until it comes out again. */
  private cutAt: { x: number; y: number; z: number } | null = null;

  constructor(
    private readonly nozzle: Nozzle,
    private readonly keptOut: KeptOut,
  ) {}

  /** What follows does not go on from what was laid last. */
  lift(): void {
    this.cutAt = null;
  }

  lay(bead: BeadNow, as: LaidAs, x0: number, y0: number, z0: number, x1: number, y1: number, z1: number): void {
    if (this.keptOut.isEmpty) this.direct(bead, as, x0, y0, z0, x1, y1, z1);
    else this.cut(bead, as, x0, y0, z0, x1, y1, z1);
  }

  /** What of a segment lies outside of all that is kept out; where it comes out again, it may have gone round the edge. */
  private cut(bead: BeadNow, as: LaidAs, x0: number, y0: number, z0: number, x1: number, y1: number, z1: number): void {
    const cuts = [0, ...this.keptOut.crossings(x0, y0, x1, y1, (z0 + z1) / 2), 1];
    for (let i = 0; i + 1 < cuts.length; i++) {
      const [from, to] = [cuts[i], cuts[i + 1]];
      const middle = (from + to) / 2;
      const on = (share: number) => [x0 + (x1 - x0) * share, y0 + (y1 - y0) * share, z0 + (z1 - z0) * share] as const;
      const [x, y, z] = on(from);
      if (this.keptOut.isInside(...on(middle))) {
        this.cutAt ??= { x, y, z };
        continue;
      }
      if (this.cutAt) this.pastGap(bead, as, x, y, z);
      this.direct(bead, as, x, y, z, ...on(to));
    }
  }

  private pastGap(bead: BeadNow, as: LaidAs, x: number, y: number, z: number): void {
    const { x: fromX, y: fromY, z: fromZ } = this.cutAt!;
    this.cutAt = null;
    const { nozzle } = this;
    // A stroke that begins inside has laid nothing yet.
    const isOnIt = Math.hypot(fromX - nozzle.x, fromY - nozzle.y) < 1e-3;
    if (!isOnIt) return;
    const way = this.keptOut.wayRound({ x: fromX, y: fromY }, { x, y }, (fromZ + z) / 2);
    if (!way) {
      nozzle.goOver(x, y, z, as);
      return;
    }
    const { places, shape } = way;
    places.forEach((at, i) => {
      const share = (i + 1) / places.length;
      this.outside(bead, as, at.x, at.y, fromZ + (z - fromZ) * share, shape);
    });
  }

  /** On along the edge of one place kept out, but not into another. */
  private outside(bead: BeadNow, as: LaidAs, x: number, y: number, z: number, edge: Shape): void {
    const { x: x0, y: y0, z: z0 } = this.nozzle;
    const cuts = [0, ...this.keptOut.crossings(x0, y0, x, y, z, edge), 1];
    for (let i = 0; i + 1 < cuts.length; i++) {
      const on = (share: number) => [x0 + (x - x0) * share, y0 + (y - y0) * share, z0 + (z - z0) * share] as const;
      const [mx, my] = on((cuts[i] + cuts[i + 1]) / 2);
      if (this.keptOut.isInside(mx, my, z, edge)) continue;
      this.direct(bead, as, ...on(cuts[i]), ...on(cuts[i + 1]));
    }
  }

  private direct(
    bead: BeadNow,
    as: LaidAs,
    x0: number,
    y0: number,
    z0: number,
    x1: number,
    y1: number,
    z1: number,
  ): void {
    const { nozzle } = this;
    if (Math.abs(x0 - x1) + Math.abs(y0 - y1) + Math.abs(z0 - z1) < 1e-6) return;
    nozzle.goTo(x0, y0, z0, bead.widthMm, as);
    nozzle.layTo(x1, y1, z1, bead, as);
  }
}
