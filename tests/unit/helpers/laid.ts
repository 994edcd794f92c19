/**
 * What a finished program lays, read from its text with a few lines that know nothing of the program's core: layers of continuous lines,
 * a raster of each layer, and what an operator would look at.
 */

export interface LaidPoint {
  x: number;
  y: number;
}

/** Lines laid without stopping, with the cross-section of what is laid, mm². */
export interface LaidPath {
  points: LaidPoint[];
  areasMm2: number[];
}

export interface LaidLayer {
  zMm: number;
  heightMm: number;
  paths: LaidPath[];
}

export interface LaidProgram {
  layers: LaidLayer[];
  /** Filament laid or drawn, in order, mm: what passes the gear. */
  filament: number[];
}

/** Reads a program in millimetres with relative filament; `G10` and `G11` draw back and give back what the firmware holds. */
export function readLaid(text: string, filamentMm = 1.75): LaidProgram {
  const filamentArea = (Math.PI * filamentMm * filamentMm) / 4;
  const layers: LaidLayer[] = [];
  const filament: number[] = [];
  let [x, y, z] = [0, 0, 0];
  let begun = false;
  let path: LaidPath | null = null;
  for (const line of text.split("\n")) {
    if (/^; layer 1 of/.test(line)) begun = true;
    if (!/^G[01] /.test(line)) {
      if (/^; the print ends/.test(line)) break;
      continue;
    }
    const word = (letter: string) => {
      const found = new RegExp(`${letter}(-?[\\d.]+)`).exec(line);
      return found ? Number(found[1]) : null;
    };
    const [nx, ny, nz, e] = [word("X") ?? x, word("Y") ?? y, word("Z") ?? z, word("E") ?? 0];
    const length = Math.hypot(nx - x, ny - y);
    if (e !== 0) filament.push(e);
    if (begun && e > 0 && length > 1e-6) {
      let layer = layers.at(-1);
      if (!layer || nz > layer.zMm + 1e-6) {
        layer = { zMm: nz, heightMm: nz - (layer?.zMm ?? 0), paths: [] };
        layers.push(layer);
        path = null;
      }
      if (!path) {
        path = { points: [{ x, y }], areasMm2: [] };
        layer.paths.push(path);
      }
      path.points.push({ x: nx, y: ny });
      path.areasMm2.push((e * filamentArea) / length);
    } else path = null;
    [x, y, z] = [nx, ny, nz];
  }
  return { layers, filament };
}

const CELL_MM = 0.18;

/** A layer as cells: 1 where something is laid. */
export class Raster {
  readonly cells: Uint8Array;
  constructor(
    private readonly minX: number,
    private readonly minY: number,
    readonly columns: number,
    readonly rows: number,
  ) {
    this.cells = new Uint8Array(columns * rows);
  }

  at(x: number, y: number): boolean {
    const column = Math.floor((x - this.minX) / CELL_MM);
    const row = Math.floor((y - this.minY) / CELL_MM);
    return (
      column >= 0 &&
      row >= 0 &&
      column < this.columns &&
      row < this.rows &&
      this.cells[row * this.columns + column] === 1
    );
  }

  /** Whether something is laid there, within the raster's own fineness. */
  near(x: number, y: number): boolean {
    return this.at(x, y) || [-CELL_MM, CELL_MM].some((d) => this.at(x + d, y) || this.at(x, y + d));
  }

  /** Everything nearer to the line than half its width. */
  lay(a: LaidPoint, b: LaidPoint, widthMm: number): void {
    const half = widthMm / 2;
    const column = (x: number) => Math.round((x - this.minX) / CELL_MM);
    const row = (y: number) => Math.round((y - this.minY) / CELL_MM);
    const [dx, dy] = [b.x - a.x, b.y - a.y];
    const squared = dx * dx + dy * dy;
    for (let j = row(Math.min(a.y, b.y) - half); j <= row(Math.max(a.y, b.y) + half); j++) {
      for (let i = column(Math.min(a.x, b.x) - half); i <= column(Math.max(a.x, b.x) + half); i++) {
        const px = this.minX + (i + 0.5) * CELL_MM - a.x;
        const py = this.minY + (j + 0.5) * CELL_MM - a.y;
        const t = squared > 0 ? Math.max(0, Math.min(1, (px * dx + py * dy) / squared)) : 0;
        if ((px - t * dx) ** 2 + (py - t * dy) ** 2 <= half * half) this.cells[j * this.columns + i] = 1;
      }
    }
  }

  private neighbours(cell: number): number[] {
    const column = cell % this.columns;
    const beside = [cell - this.columns, cell + this.columns];
    if (column > 0) beside.push(cell - 1);
    if (column + 1 < this.columns) beside.push(cell + 1);
    return beside.filter((next) => next >= 0 && next < this.cells.length);
  }

  /** Parts that hang together: their cells. */
  parts(): number[][] {
    const seen = new Uint8Array(this.cells.length);
    const parts: number[][] = [];
    for (let start = 0; start < this.cells.length; start++) {
      if (this.cells[start] === 0 || seen[start]) continue;
      const part = [start];
      seen[start] = 1;
      for (let k = 0; k < part.length; k++) {
        const cell = part[k];
        for (const next of this.neighbours(cell)) {
          if (seen[next] || this.cells[next] === 0) continue;
          seen[next] = 1;
          part.push(next);
        }
      }
      parts.push(part);
    }
    return parts;
  }

  private whole: Raster | null = null;

  /** The same with everything that is enclosed: fill in a closed wall rests on the fill below, however sparse. */
  enclosed(): Raster {
    return (this.whole ??= this.filled());
  }

  private filled(): Raster {
    const outside = new Uint8Array(this.cells.length);
    const open = [0];
    outside[0] = 1;
    for (let k = 0; k < open.length; k++) {
      const cell = open[k];
      for (const next of this.neighbours(cell)) {
        if (outside[next] || this.cells[next]) continue;
        outside[next] = 1;
        open.push(next);
      }
    }
    const whole = new Raster(this.minX, this.minY, this.columns, this.rows);
    outside.forEach((is, cell) => (whole.cells[cell] = 1 - is));
    return whole;
  }

  /** For each column, where what is laid begins, seen from the front: the smallest Y, Infinity where nothing is. */
  front(): Float64Array {
    const front = new Float64Array(this.columns).fill(Infinity);
    for (let cell = this.cells.length - 1; cell >= 0; cell--)
      if (this.cells[cell]) front[cell % this.columns] = this.middle(cell).y - CELL_MM / 2;
    return front;
  }

  middle(cell: number): LaidPoint {
    return {
      x: this.minX + ((cell % this.columns) + 0.5) * CELL_MM,
      y: this.minY + (Math.floor(cell / this.columns) + 0.5) * CELL_MM,
    };
  }
}

/** Every layer as a raster, all of one size. A bead is as wide as its cross-section is at the layer's height; over air it is round. */
export function rasters({ layers }: LaidProgram): Raster[] {
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const { paths } of layers)
    for (const { points } of paths)
      for (const { x, y } of points) {
        minX = Math.min(minX, x);
        maxX = Math.max(maxX, x);
        minY = Math.min(minY, y);
        maxY = Math.max(maxY, y);
      }
  const margin = 2;
  const columns = Math.ceil((maxX - minX + 2 * margin) / CELL_MM);
  const rows = Math.ceil((maxY - minY + 2 * margin) / CELL_MM);
  return layers.map(({ paths, heightMm }) => {
    const raster = new Raster(minX - margin, minY - margin, columns, rows);
    for (const { points, areasMm2 } of paths)
      areasMm2.forEach((area, i) =>
        raster.lay(points[i], points[i + 1], area / heightMm + heightMm * (1 - Math.PI / 4)),
      );
    return raster;
  });
}

export interface InTheAir {
  layer: number;
  x: number;
  y: number;
  /** Share of the part that rests on the layer below. */
  rests: number;
}

/**
 * Parts of a layer of which less than a third rests on the layer below, and that are not held by strands between two rests either: `loose`
 * are those that are not.
 */
export function partsInTheAir(layers: readonly Raster[], loose: readonly { layer: number }[]): InTheAir[] {
  const found: InTheAir[] = [];
  const isLoose = new Set(loose.map(({ layer }) => layer));
  for (let layer = 1; layer < layers.length; layer++) {
    const below = layers[layer - 1].enclosed().cells;
    for (const part of layers[layer].parts()) {
      const resting = part.reduce((sum, cell) => sum + below[cell], 0);
      if (part.length * CELL_MM * CELL_MM < 0.5 || resting >= part.length / 3) continue;
      if (resting > 0 && !isLoose.has(layer + 1)) continue;
      found.push({
        layer: layer + 1,
        ...layers[layer].middle(part[Math.floor(part.length / 2)]),
        rests: resting / part.length,
      });
    }
  }
  return found;
}

/** Runs over air longer than `leastMm` that are not held by `holdMm` of line on something at both ends. */
export function looseStrands(
  program: LaidProgram,
  layers: readonly Raster[],
  holdMm = 0.5,
  leastMm = 1,
): { layer: number; x: number; y: number; lengthMm: number }[] {
  const found: { layer: number; x: number; y: number; lengthMm: number }[] = [];
  const step = 0.1;
  for (let layer = 1; layer < layers.length; layer++) {
    const below = layers[layer - 1].enclosed();
    for (const { points } of program.layers[layer].paths) {
      const samples: (LaidPoint & { on: boolean })[] = [];
      for (let i = 1; i < points.length; i++) {
        const [a, b] = [points[i - 1], points[i]];
        const count = Math.max(1, Math.ceil(Math.hypot(b.x - a.x, b.y - a.y) / step));
        for (let k = i === 1 ? 0 : 1; k <= count; k++) {
          const x = a.x + ((b.x - a.x) * k) / count;
          const y = a.y + ((b.y - a.y) * k) / count;
          samples.push({ x, y, on: below.near(x, y) });
        }
      }
      const hold = Math.round(holdMm / step);
      for (let from = 0; from < samples.length;) {
        if (samples[from].on) {
          from++;
          continue;
        }
        let to = from;
        while (to < samples.length && !samples[to].on) to++;
        const held = (start: number, way: number) => {
          for (let k = 0; k < hold; k++) if (!samples[start + way * k]?.on) return false;
          return true;
        };
        const lengthMm = (to - from) * step;
        if (lengthMm > leastMm && (!held(from - 1, -1) || !held(to, 1)))
          found.push({ layer: layer + 1, x: samples[from].x, y: samples[from].y, lengthMm });
        from = to;
      }
    }
  }
  return found;
}

/** Share of a layer's laid length under which nothing is. */
export function shareOverVoid(program: LaidProgram, layers: readonly Raster[], layer: number): number {
  const below = layers[layer - 1];
  let [over, whole] = [0, 0];
  for (const { points } of program.layers[layer].paths) {
    for (let i = 1; i < points.length; i++) {
      const [a, b] = [points[i - 1], points[i]];
      const length = Math.hypot(b.x - a.x, b.y - a.y);
      const count = Math.max(1, Math.ceil(length / 0.1));
      for (let k = 0; k < count; k++) {
        const t = (k + 0.5) / count;
        if (!below.at(a.x + (b.x - a.x) * t, a.y + (b.y - a.y) * t)) over += length / count;
      }
      whole += length;
    }
  }
  return whole === 0 ? 0 : over / whole;
}

/** Filament words have five decimals: on shorter lines a rounded figure may be off by more than what is looked for. */
const SHORTEST_WEIGHED_MM = 2;

/**
 * Share of the length of all longer lines whose cross-section is further than 1 % from both what a bead as wide and high as its layer has,
 * h·(w − h) + π·h²/4 (a rectangle with round sides), and what a strand over air has, π·d²/4.
 */
export function oddVolumeShare({ layers }: LaidProgram, beadMm: number, strandMm: number): number {
  let all = 0;
  let odd = 0;
  for (const { heightMm: h, paths } of layers) {
    const wanted = [
      h * (beadMm - h) + (Math.PI * h * h) / 4,
      (Math.PI * strandMm * strandMm) / 4,
      // On its pier a strand has the room of a layer: as wide as strands lie apart, which touch one another.
      strandMm * h,
    ];
    for (const { points, areasMm2 } of paths) {
      areasMm2.forEach((area, i) => {
        const length = Math.hypot(points[i + 1].x - points[i].x, points[i + 1].y - points[i].y);
        if (length < SHORTEST_WEIGHED_MM) return;
        all += length;
        if (wanted.every((one) => Math.abs(area / one - 1) > 0.01)) odd += length;
      });
    }
  }
  return all === 0 ? 0 : odd / all;
}

/** How often one point of the filament passes the gear, either way: the most of all. */
export function mostPasses(filament: readonly number[]): number {
  const binMm = 0.1;
  const passes = new Map<number, number>();
  let at = 0;
  let most = 0;
  for (const mm of filament) {
    const [from, to] = [Math.round(Math.min(at, at + mm) / binMm), Math.round(Math.max(at, at + mm) / binMm)];
    for (let bin = from; bin < to; bin++) {
      const count = (passes.get(bin) ?? 0) + 1;
      passes.set(bin, count);
      most = Math.max(most, count);
    }
    at += mm;
  }
  return most;
}

/** Seven strokes of a digit and where their middles lie in its box, across and up. */
const strokes: [name: string, across: number, up: number][] = [
  ["a", 0.5, 0.94],
  ["b", 0.88, 0.72],
  ["c", 0.88, 0.28],
  ["d", 0.5, 0.06],
  ["e", 0.12, 0.28],
  ["f", 0.12, 0.72],
  ["g", 0.5, 0.5],
];
/** The usual seven-segment code of the digits. */
const digitOf: Record<string, string> = {
  abcdef: "0",
  bc: "1",
  abdeg: "2",
  abcdg: "3",
  bcfg: "4",
  acdfg: "5",
  acdefg: "6",
  abc: "7",
  abcdefg: "8",
  abcdfg: "9",
};

/**
 * The number raised on the front of some layers, as it is laid: what stands out by a quarter of a millimetre from the front of the first of
 * them. Signs that are no digit are read as `?`.
 *
 * @param fromX what stands left of this is something else
 */
export function readRaised(layers: readonly Raster[], fromX = -Infinity): string {
  const plain = Math.min(...layers[0].front());
  const raised = layers.map((layer) => Array.from(layer.front(), (y) => y < plain - 0.25));
  const xOf = (column: number) => layers[0].middle(column).x;
  const inColumn = raised[0].map((_, column) => xOf(column) > fromX && raised.some((row) => row[column]));
  const inRow = raised.map((row) => row.some((is, column) => is && inColumn[column]));
  const [low, high] = [inRow.indexOf(true), inRow.lastIndexOf(true)];
  let text = "";
  for (let start = inColumn.indexOf(true); start >= 0; start = inColumn.indexOf(true, start)) {
    let end = start;
    while (inColumn[end + 1]) end++;
    const widthMm = (end - start + 1) * CELL_MM;
    const tall = raised.slice(low, high + 1).filter((row) => row.slice(start, end + 1).some(Boolean)).length;
    if (widthMm < 1.2) text += tall > (high - low) / 2 ? "1" : ".";
    else {
      const seen = strokes.filter(([, across, up]) => {
        const row = raised[Math.round(low + (high - low) * up)];
        return row[Math.round(start + (end - start) * across)];
      });
      text += digitOf[seen.map(([name]) => name).join("")] ?? "?";
    }
    start = end + 1;
  }
  return text;
}
