/**
 * Programs in the habits of slicing, with the truth about their layers: it is noted while the moves are made, and never read back from the
 * text. Habits are common practice, no source; words of comments are made up or the trade's own.
 */

/** What opens a layer in a program's comments. `none`: nothing does. */
export const commentHabits = {
  none: () => [],
  "from 0": (i) => [`;level ${i}`],
  "from 1 with height": (i, z) => [`; layer ${i + 1}, z = ${z.toFixed(3)}`],
  "of so many": (i, _z, count) => [`; slice ${i + 1} of ${count}`],
  "two digits": (i) => [`; deck ${String(i + 1).padStart(2, "0")}`],
  "in brackets": (i) => [`(storey ${i})`],
  German: (i, z, count) => [`; Schicht ${i + 1} von ${count} (z=${z.toFixed(2)} mm)`],
  French: (i) => [`; couche n°${i}`],
  Chinese: (i, _z, count) => [`; 第${i + 1}层 共${count}层`],
  "bare number": (i) => [`; ${i + 1}`],
  "percent beside": (i, _z, count) => [`; storey ${i} of ${count} - ${Math.floor((100 * i) / count)} percent`],
  "without number": () => ["; next storey"],
  "height only": (_i, z) => ["; next storey", `; at ${z.toFixed(2)}`],
  "blanks behind": (i) => [`; deck ${i}${" ".repeat(Math.abs(i % 3))}`],
} satisfies Record<string, (index: number, zMm: number, count: number) => string[]>;

export type CommentHabit = keyof typeof commentHabits;

export interface Habits {
  comments: CommentHabit;
  /** The comment stands behind the move to the layer's height. */
  commentBehindLift?: boolean;
  /** `; done with i` at each end. */
  endComments?: boolean;
  /** Two pieces side by side, each layer of each with a comment of its own that counts; the first ends so much sooner. */
  byObject?: { endsSooner: number };
  layers?: number;
  firstMm?: number;
  layerMm?: number;
  /** Instead of the two. */
  heightsMm?: number[];
  relative?: boolean;
  hop?: "line" | "by G91";
  /** Commands between the first travel and the first bead. */
  busyStart?: boolean;
  /** A line that fills the nozzle, at this height. */
  primeMm?: number;
  halfHeightWalls?: boolean;
  /** Supports in every other layer, at half its height. */
  ownSupports?: boolean;
  /** Smoothed a little above. */
  smoothedMm?: number;
  /** A bead that rises and comes back on top of a layer, in the upper half. */
  rising?: boolean;
  /** Turns that climb from this layer on. */
  spiralFrom?: number;
  oneByOne?: boolean;
  /** A tower for cleaning in every layer that is kept lower than the piece. */
  lowTower?: boolean;
  /** Layers of a raft, counted below zero. */
  raft?: boolean;
  lineEnd?: "\n" | "\r\n";
}

/** Lines count from 0. */
export interface TrueLayer {
  zMm: number;
  filamentMm: number;
  firstBeadLine: number;
  lastBeadLine: number;
}

const FILAMENT_A_MM = 0.0338;

/** Writes one program; see `Habits`. */
class Slicing {
  readonly lines: string[] = ["M140 S60", "M104 S210", "G28", "M190 S60", "M109 S210", "G21", "G90"];
  readonly layers: TrueLayer[] = [];
  private readonly at = { x: 0, y: 0, z: 0, e: 0 };
  private isDrawn = false;

  constructor(private readonly habits: Habits) {
    this.lines.push(habits.relative ? "M83" : "M82", "G92 E0");
  }

  private feed(mm: number): string {
    this.at.e = this.habits.relative ? mm : this.at.e + mm;
    return ` E${this.at.e.toFixed(5)}`;
  }

  bead(x: number, y: number, z = this.at.z, flow = 1): void {
    const filamentMm = Number((Math.hypot(x - this.at.x, y - this.at.y) * FILAMENT_A_MM * flow).toFixed(5));
    const climbs = z === this.at.z ? "" : ` Z${z.toFixed(4)}`;
    const layer = this.layers[this.layers.length - 1];
    if (layer) {
      if (layer.firstBeadLine < 0) layer.firstBeadLine = this.lines.length;
      layer.lastBeadLine = this.lines.length;
      layer.filamentMm += filamentMm;
    }
    this.lines.push(`G1 X${x.toFixed(3)} Y${y.toFixed(3)}${climbs}${this.feed(filamentMm)} F1800`);
    Object.assign(this.at, { x, y, z });
  }

  draw(isDrawn: boolean): void {
    if (isDrawn === this.isDrawn) return;
    this.isDrawn = isDrawn;
    this.lines.push(`G1${this.feed(isDrawn ? -1.2 : 1.2)} F2100`);
  }

  lift(z: number): void {
    if (z !== this.at.z) this.lines.push(`G0 Z${z.toFixed(4)} F600`);
    this.at.z = z;
  }

  travel(x: number, y: number): void {
    const { hop } = this.habits;
    const { z } = this.at;
    this.draw(true);
    if (hop === "line") this.lines.push(`G0 Z${(z + 0.4).toFixed(4)} F600`);
    if (hop === "by G91") this.lines.push("G91", "G0 Z0.4 F600", "G90");
    if (hop === "by G91" && this.habits.relative) this.lines.push("M83");
    this.lines.push(`G0 X${x.toFixed(3)} Y${y.toFixed(3)} F9000`);
    if (hop) this.lines.push(`G0 Z${z.toFixed(4)} F600`);
    if (this.layers.length === 1 && this.layers[0].firstBeadLine < 0 && this.habits.busyStart)
      this.lines.push("M204 S500", "M117 Go", "M106 S0", "; kind: skirt");
    this.draw(false);
    Object.assign(this.at, { x, y });
  }

  ring(x: number, y: number, half: number, flow = 1): void {
    this.travel(x - half, y - half);
    for (const [dx, dy] of [
      [1, -1],
      [1, 1],
      [-1, 1],
      [-1, -1],
    ])
      this.bead(x + dx * half, y + dy * half, this.at.z, flow);
  }

  open(zMm: number, comments: readonly string[]): void {
    this.layers.push({ zMm, filamentMm: 0, firstBeadLine: -1, lastBeadLine: -1 });
    if (!this.habits.commentBehindLift) this.lines.push(...comments);
    this.draw(true);
    this.lift(zMm);
    if (this.habits.commentBehindLift) this.lines.push(...comments);
  }

  prime(zMm: number): void {
    this.lines.push(`G0 X5 Y10 Z${zMm.toFixed(2)} F3000`);
    Object.assign(this.at, { x: 5, y: 10, z: zMm });
    this.bead(5, 100);
    this.lines.push("G92 E0");
    this.at.e = 0;
    this.lift(2);
  }

  body(x: number, index: number, heightMm: number): void {
    const { halfHeightWalls, ownSupports, smoothedMm, rising, lowTower } = this.habits;
    const { z } = this.at;
    if (ownSupports && index % 2 === 1) {
      this.lift(z - heightMm / 2);
      this.ring(x + 30, 110, 3);
      this.lift(z);
    }
    this.ring(x, 110, 10);
    if (halfHeightWalls) this.lift(z + heightMm / 2);
    this.ring(x, 110, 9.5);
    this.lift(z);
    this.ring(x, 110, 7);
    if (lowTower && index % 3 === 2) {
      this.draw(true);
      this.lift(0.2 + 0.2 * Math.floor(index / 3));
      this.ring(170, 170, 6);
      this.draw(true);
      this.lift(z);
    }
    if (rising && index >= 6) {
      this.travel(x - 6, 108);
      for (let j = 1; j <= 12; j++) this.bead(x - 6 + j, 108, z + 0.75 * heightMm * Math.sin((Math.PI * j) / 12));
      this.lift(z);
    }
    if (smoothedMm) {
      this.lift(z + smoothedMm);
      this.ring(x, 110, 6, 0.1);
      this.lift(z);
    }
  }

  turn(x: number, zMm: number, heightMm: number): void {
    for (let j = 1; j <= 48; j++) {
      const angle = (2 * Math.PI * j) / 48;
      this.bead(x + 10 * Math.cos(angle), 110 + 10 * Math.sin(angle), zMm - heightMm + (heightMm * j) / 48);
    }
  }
}

/** A program and what its layers are. */
export function slicedIn(habits: Habits): { text: string; layers: TrueLayer[] } {
  const { layers: count = 12, firstMm = 0.2, layerMm = 0.2, comments, byObject, raft, spiralFrom = Infinity } = habits;
  const heights = habits.heightsMm ?? Array.from({ length: count }, (_, i) => (i === 0 ? firstMm : layerMm));
  const slicing = new Slicing(habits);
  if (habits.primeMm !== undefined) slicing.prime(habits.primeMm);
  let base = 0;
  if (raft) {
    for (let k = -3; k < 0; k++) {
      base += 0.3;
      slicing.open(base, commentHabits[comments](k, base, heights.length));
      slicing.ring(110, 110, 14);
      slicing.ring(110, 110, 12);
    }
  }
  for (const x of habits.oneByOne ? [60, 160] : [110]) {
    if (x === 160) {
      slicing.draw(true);
      slicing.lift(20);
    }
    let z = base;
    heights.forEach((heightMm, i) => {
      z = Number((z + heightMm).toFixed(4));
      if (i >= spiralFrom) {
        const isFirst = i === spiralFrom;
        slicing.layers.push({ zMm: z, filamentMm: 0, firstBeadLine: -1, lastBeadLine: -1 });
        slicing.lines.push(...commentHabits[comments](i, z, heights.length));
        if (isFirst) slicing.travel(x + 10, 110);
        slicing.turn(x, z, heightMm);
        return;
      }
      slicing.open(z, byObject ? [] : commentHabits[comments](i, z, heights.length));
      if (byObject && i < heights.length - byObject.endsSooner) {
        slicing.lines.push(`; cup layer ${i}`);
        slicing.ring(70, 110, 8);
      }
      if (byObject) slicing.lines.push(`; lid layer ${i}`);
      slicing.body(x, i, heightMm);
      if (habits.endComments) slicing.lines.push(`; done with ${i}`);
    });
  }
  slicing.draw(true);
  slicing.lines.push("G91", "G0 Z5 F600", "G90", "G91", "G0 Z5", "G90", "M104 S0", "M140 S0", "M107", "M84", "");
  return { text: slicing.lines.join(habits.lineEnd ?? "\n"), layers: slicing.layers };
}
