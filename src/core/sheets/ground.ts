/** Where something is laid in the layer at hand or the one below: ways over it leave no string that is seen. */
const CELL_MM = 0.4;
/** Cells along a side; places so far apart that they share a cell (410 mm) are on no bed at once, or cost a needless retraction less. */
const SIDE = 1024;

export class Ground {
  private readonly layerOf = new Uint32Array(SIDE * SIDE);
  private layer = 1;

  /** Another layer is begun. */
  rise(): void {
    this.layer++;
  }

  /** Something is laid along a line. */
  lay(x0: number, y0: number, x1: number, y1: number): void {
    const { layerOf, layer } = this;
    const steps = stepsAlong(x1 - x0, y1 - y0);
    const [dx, dy] = [(x1 - x0) / steps, (y1 - y0) / steps];
    for (let i = 0; i <= steps; i++) layerOf[cellAt(x0 + dx * i, y0 + dy * i)] = layer;
  }

  /** The whole way lies over what is laid. */
  holds(x0: number, y0: number, x1: number, y1: number): boolean {
    const { layerOf, layer } = this;
    const steps = stepsAlong(x1 - x0, y1 - y0);
    const [dx, dy] = [(x1 - x0) / steps, (y1 - y0) / steps];
    for (let i = 0; i <= steps; i++) {
      const laidIn = layerOf[cellAt(x0 + dx * i, y0 + dy * i)];
      if (laidIn === 0 || laidIn + 1 < layer) return false;
    }
    return true;
  }
}

const stepsAlong = (dx: number, dy: number): number => Math.ceil(Math.sqrt(dx * dx + dy * dy) / CELL_MM) || 1;

const PER_MM = 1 / CELL_MM;
/** Whole cells that make every place on any bed positive, so that cutting off decimals rounds down. */
const BIAS = SIDE * 16 + 0.5;

const cellAt = (x: number, y: number): number =>
  (((y * PER_MM + BIAS) | 0) & (SIDE - 1)) * SIDE + (((x * PER_MM + BIAS) | 0) & (SIDE - 1));
