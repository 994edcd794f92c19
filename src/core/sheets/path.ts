/** Points of one stroke, in the sheet's own place: columns that are used again from stroke to stroke. */
const FIRST_ROOM = 1024;

export class Path {
  count = 0;
  isClosed = false;
  /** A layer opens whenever the stroke has climbed so much, mm; 0 where it lies in one. */
  layerEveryMm = 0;
  x = new Float64Array(FIRST_ROOM);
  y = new Float64Array(FIRST_ROOM);
  /** Height of the nozzle; NaN where it is the layer's own. */
  z = new Float64Array(FIRST_ROOM);
  /** How far along the stroke, 0 to 1 (or what a curve calls it), and the angle round its middle, rad. */
  t = new Float64Array(FIRST_ROOM);
  a = new Float64Array(FIRST_ROOM);
  /** Points that the nozzle goes to without laying anything. */
  readonly lifts = new Set<number>();

  begin(isClosed: boolean, layerEveryMm = 0): this {
    this.count = 0;
    this.isClosed = isClosed;
    this.layerEveryMm = layerEveryMm;
    this.lifts.clear();
    return this;
  }

  /** Nothing is laid on the way to the next point. */
  lift(): void {
    this.lifts.add(this.count);
  }

  add(x: number, y: number, t: number, a: number, z = NaN): void {
    if (this.count === this.x.length) this.grow();
    const at = this.count++;
    this.x[at] = x;
    this.y[at] = y;
    this.z[at] = z;
    this.t[at] = t;
    this.a[at] = a;
  }

  private grow(): void {
    for (const column of ["x", "y", "z", "t", "a"] as const) {
      const larger = new Float64Array(this[column].length * 2);
      larger.set(this[column]);
      this[column] = larger;
    }
  }
}
