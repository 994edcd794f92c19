/**
 * A piece with two walls and a fill, written by hand in the ways that files are written: each convention is a thing that some programs do.
 * Nothing here knows Cuchara's own writer.
 */

export interface Convention {
  name: string;
  end: "\n" | "\r\n";
  /** Opens a layer (from 1). */
  opens?(layer: number): string;
  /** Comments before each kind of line. */
  kinds?: { outer: string; inner: string; fill: string };
  absoluteE: boolean;
  inches?: boolean;
  hopMm?: number;
  tools?: 2;
  onOffFan?: boolean;
  firmwareRetraction?: boolean;
  arcs?: boolean;
  spiral?: boolean;
  variable?: boolean;
}

export const conventions: Convention[] = [
  { name: "relative filament", end: "\n", opens: (n) => `; layer ${n}`, absoluteE: false },
  { name: "absolute filament and CRLF", end: "\r\n", opens: (n) => `;DECK ${n - 1}`, absoluteE: true },
  {
    name: "kinds in comments",
    end: "\n",
    opens: (n) => `; slice ${n} of 8`,
    kinds: { outer: "; outer wall", inner: "; inner wall", fill: "; sparse fill" },
    absoluteE: true,
  },
  { name: "no comments", end: "\n", absoluteE: false },
  { name: "inches", end: "\n", opens: (n) => `(floor ${n})`, absoluteE: true, inches: true },
  { name: "z-hop", end: "\n", opens: (n) => `; layer ${n}`, absoluteE: true, hopMm: 0.4 },
  { name: "two tools", end: "\n", opens: (n) => `; layer ${n}`, absoluteE: false, tools: 2 },
  { name: "on-off fan", end: "\n", opens: (n) => `; layer ${n}`, absoluteE: false, onOffFan: true },
  { name: "firmware retraction", end: "\r\n", opens: (n) => `; layer ${n}`, absoluteE: true, firmwareRetraction: true },
  { name: "arcs", end: "\n", opens: (n) => `; layer ${n}`, absoluteE: true, arcs: true },
  { name: "variable layers", end: "\n", opens: (n) => `; layer ${n}`, absoluteE: false, variable: true },
  { name: "spiral", end: "\n", absoluteE: false, spiral: true },
];

export interface PieceShape {
  layers?: number;
  layerMm?: number;
  /** Half the side at a height, mm. */
  halfAt?(zMm: number): number;
  /** Distance between the lines of the fill, mm; 0 for none. */
  fillMm?: number;
  feedMmMin?: number;
}

export const BEAD_MM = 0.45;
const MIDDLE = { x: 110, y: 110 };
const FILAMENT_MM2 = (Math.PI * 1.75 * 1.75) / 4;

/** Heights of the tops of the layers, mm. */
export function topsOf({ variable }: Convention, { layers = 8, layerMm = 0.2 }: PieceShape): number[] {
  const tops: number[] = [];
  let z = 0;
  for (let i = 0; i < layers; i++) tops.push((z += variable && i % 2 === 1 ? layerMm / 2 : layerMm));
  return tops;
}

class Writer {
  readonly lines: string[] = [];
  private e = 0;
  private at = { x: 0, y: 0 };
  private isDrawn = false;

  constructor(private readonly form: Convention) {}

  say(mm: number): string {
    return (mm / (this.form.inches ? 25.4 : 1)).toFixed(this.form.inches ? 5 : 3).replace(/\.?0+$/, "") || "0";
  }

  feed(mmMin: number): string {
    return (mmMin / (this.form.inches ? 25.4 : 1)).toFixed(this.form.inches ? 2 : 0);
  }

  line(text: string): void {
    this.lines.push(text);
  }

  extrude(mm: number): string {
    this.e += mm;
    const figure = (this.form.absoluteE ? this.e : mm) / (this.form.inches ? 25.4 : 1);
    return figure.toFixed(5);
  }

  draw(back: boolean): void {
    if (back === this.isDrawn) return;
    this.isDrawn = back;
    if (this.form.firmwareRetraction) this.line(back ? "G10" : "G11");
    else this.line(`G1 E${this.extrude(back ? -1 : 1)} F${this.feed(1800)}`);
  }

  goTo(x: number, y: number, z: number): void {
    this.draw(true);
    if (this.form.hopMm) this.line(`G0 Z${this.say(z + this.form.hopMm)} F${this.feed(600)}`);
    this.line(`G0 X${this.say(x)} Y${this.say(y)}${this.form.hopMm ? "" : ` Z${this.say(z)}`} F${this.feed(6000)}`);
    if (this.form.hopMm) this.line(`G0 Z${this.say(z)} F${this.feed(600)}`);
    this.draw(false);
    this.at = { x, y };
  }

  layTo(x: number, y: number, heightMm: number, feedMmMin: number | null, z?: number): void {
    const area = (BEAD_MM - heightMm) * heightMm + (Math.PI * heightMm * heightMm) / 4;
    const mm = (Math.hypot(x - this.at.x, y - this.at.y) * area) / FILAMENT_MM2;
    const climb = z === undefined ? "" : ` Z${z.toFixed(4)}`;
    const feed = feedMmMin === null ? "" : ` F${this.feed(feedMmMin)}`;
    this.line(`G1 X${this.say(x)} Y${this.say(y)}${climb} E${this.extrude(mm)}${feed}`);
    this.at = { x, y };
  }

  /** Half a circle round the middle, against the clock. */
  arcTo(x: number, y: number, radiusMm: number, heightMm: number): void {
    const area = (BEAD_MM - heightMm) * heightMm + (Math.PI * heightMm * heightMm) / 4;
    const e = this.extrude((Math.PI * radiusMm * area) / FILAMENT_MM2);
    this.line(`G3 X${this.say(x)} Y${this.say(y)} I${this.say(MIDDLE.x - this.at.x)} J0 E${e} F${this.feed(1800)}`);
    this.at = { x, y };
  }
}

/** The piece in a convention. Layer 3 turns the fan on, layer 6 heats by a waiting command. */
export function pieceText(form: Convention, shape: PieceShape = {}): string {
  const { halfAt = () => 8, fillMm = 2, feedMmMin = 1800 } = shape;
  const out = new Writer(form);
  const start = ["M140 S60", "M104 S210", "M190 S60", "M109 S210", "G28", form.inches ? "G20" : "G21", "G90"];
  for (const line of start) out.line(line);
  if (form.tools) out.line("M104 T1 S205");
  out.line(form.absoluteE ? "M82" : "M83");
  out.line("G92 E0");
  if (form.spiral) spiral(out, shape);
  else layersOf(form, out, { ...shape, halfAt, fillMm, feedMmMin });
  const end = ["M107", "M104 S0", ...(form.tools ? ["M104 T1 S0"] : []), "M140 S0", "G0 X0 Y0", "M84"];
  for (const line of end) out.line(line);
  return out.lines.join(form.end) + form.end;
}

function layersOf(
  form: Convention,
  out: Writer,
  shape: Required<Pick<PieceShape, "halfAt" | "fillMm" | "feedMmMin">> & PieceShape,
): void {
  let below = 0;
  topsOf(form, shape).forEach((z, index) => {
    const heightMm = z - below;
    const half = shape.halfAt(z - heightMm / 2);
    if (form.opens) out.line(form.opens(index + 1));
    if (form.tools && index % 2 === 1) out.line("T1");
    else if (form.tools && index > 0) out.line("T0");
    if (index === 2) out.line(form.onOffFan ? "M126" : "M106 S255");
    if (index === 5) out.line(form.tools ? "M109 T1 S205" : "M109 S205 ; second heat");
    if (form.kinds) out.line(form.kinds.inner);
    ring(form, out, half - BEAD_MM, z, heightMm, shape.feedMmMin);
    if (form.kinds) out.line(form.kinds.outer);
    ring(form, out, half, z, heightMm, shape.feedMmMin);
    if (shape.fillMm > 0) {
      if (form.kinds) out.line(form.kinds.fill);
      fill(form, out, half - 2 * BEAD_MM, z, heightMm, shape.fillMm, index);
    }
    below = z;
  });
}

function ring(form: Convention, out: Writer, half: number, z: number, heightMm: number, feedMmMin: number): void {
  const { x, y } = MIDDLE;
  if (form.arcs) {
    out.goTo(x + half, y, z);
    out.arcTo(x - half, y, half, heightMm);
    out.arcTo(x + half, y, half, heightMm);
    return;
  }
  out.goTo(x - half, y - half, z);
  // The feed is said once and holds for the rest of the ring, as files do.
  out.layTo(x + half, y - half, heightMm, feedMmMin);
  out.layTo(x + half, y + half, heightMm, null);
  out.layTo(x - half, y + half, heightMm, null);
  out.layTo(x - half, y - half, heightMm, null);
}

function fill(
  form: Convention,
  out: Writer,
  half: number,
  z: number,
  heightMm: number,
  everyMm: number,
  index: number,
): void {
  const isAcross = index % 2 === 0;
  const place = (a: number, b: number) =>
    isAcross ? { x: MIDDLE.x + a, y: MIDDLE.y + b } : { x: MIDDLE.x + b, y: MIDDLE.y + a };
  const reachAt = (b: number) => (form.arcs ? Math.sqrt(half * half - b * b) : half);
  let isForth = true;
  const lines = Math.floor((2 * half) / everyMm);
  for (let n = 0; n <= lines; n++) {
    const b = -half + 0.01 + n * everyMm;
    const reach = reachAt(b);
    const from = place(isForth ? -reach : reach, b);
    const to = place(isForth ? reach : -reach, b);
    if (n === 0) out.goTo(from.x, from.y, z);
    else out.layTo(from.x, from.y, heightMm, 2400);
    out.layTo(to.x, to.y, heightMm, 2400);
    isForth = !isForth;
  }
}

/** One wall that climbs all the way round, behind a flat first ring. */
function spiral(out: Writer, { layers = 8, layerMm = 0.2 }: PieceShape): void {
  const sides = 24;
  const place = (n: number) => ({
    x: MIDDLE.x + 8 * Math.cos((2 * Math.PI * n) / sides),
    y: MIDDLE.y + 8 * Math.sin((2 * Math.PI * n) / sides),
  });
  out.goTo(place(0).x, place(0).y, layerMm);
  for (let n = 1; n <= sides; n++) out.layTo(place(n).x, place(n).y, layerMm, 1800);
  for (let n = 1; n <= sides * layers; n++) {
    if (n === 2 * sides) out.line("M106 S255");
    out.layTo(place(n).x, place(n).y, layerMm, null, layerMm + (layerMm * n) / sides);
  }
}
