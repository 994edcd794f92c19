/**
 * Reads a trial's program with a few lines of its own and nothing of the program's core, so that what is handed out is checked from
 * outside.
 */

/** What is in force when the first material of a layer is laid, and what its moves do. */
export interface ReadLayer {
  zMm: number;
  nozzleC: number;
  fanDuty: number;
  flowPercent: number;
  accelerationMmS2: number;
  jerkMmS: number;
  deviationMm: number;
  advanceS: number;
  /** Every drawing back: where, how far, how fast. */
  retractions: { x: number; y: number; lengthMm: number; speedMmS: number }[];
  /** Length laid at each feed, mm by mm/s. */
  laid: Map<number, number>;
}

const word = (line: string, letter: string): number => {
  const found = new RegExp(`(?:^|\\s)${letter}(-?[\\d.]+)`).exec(line.split(";")[0]);
  return found ? Number(found[1]) : NaN;
};

/** The layers of a program that opens them by comments of its own. */
export function readLayers(program: string): ReadLayer[] {
  const layers: ReadLayer[] = [];
  const now = {
    nozzleC: 0,
    fanDuty: 0,
    flowPercent: 100,
    accelerationMmS2: NaN,
    jerkMmS: NaN,
    deviationMm: NaN,
    advanceS: NaN,
  };
  let [x, y, z, feed] = [0, 0, 0, 0];
  let open = false;
  let waiting: ReadLayer["retractions"] = [];
  const take = (key: keyof typeof now, value: number) => {
    if (!Number.isNaN(value)) now[key] = value;
  };
  for (const line of program.split(/\r?\n/)) {
    if (/^; layer \d+ of/.test(line)) {
      open = true;
      waiting = [];
    }
    if (line.startsWith("; the print ends here")) break;
    if (/^M10[49]\b/.test(line)) take("nozzleC", word(line, "S"));
    if (/^M107\b|^M127\b/.test(line)) now.fanDuty = 0;
    if (/^M126\b/.test(line)) now.fanDuty = 255;
    if (/^M106\b/.test(line)) take("fanDuty", word(line, "S"));
    if (/^M221\b/.test(line)) take("flowPercent", word(line, "S"));
    if (/^M204\b/.test(line)) take("accelerationMmS2", word(line, "P"));
    if (/^M205\b/.test(line)) {
      take("jerkMmS", word(line, "X"));
      take("deviationMm", word(line, "J"));
    }
    if (/^M900\b/.test(line)) take("advanceS", word(line, "K"));
    if (!/^G[01]\b/.test(line)) continue;
    const from = { x, y };
    const moved = {
      x: word(line, "X"),
      y: word(line, "Y"),
      z: word(line, "Z"),
      e: word(line, "E"),
      f: word(line, "F"),
    };
    if (!Number.isNaN(moved.x)) x = moved.x;
    if (!Number.isNaN(moved.y)) y = moved.y;
    if (!Number.isNaN(moved.z)) z = moved.z;
    if (!Number.isNaN(moved.f)) feed = moved.f / 60;
    const length = Math.hypot(x - from.x, y - from.y);
    const layer = layers.at(-1);
    if (moved.e < 0 && length === 0) {
      // Between the comment and the first material it still belongs to the piece just left.
      (open ? waiting : (layer?.retractions ?? [])).push({ x, y, lengthMm: -moved.e, speedMmS: feed });
    } else if (moved.e > 0 && length > 0) {
      if (open) {
        layers.push({ zMm: z, ...now, retractions: [], laid: new Map() });
        if (layer) layer.retractions.push(...waiting);
        open = false;
      }
      // What is laid before the first layer only fills the nozzle.
      const laid = layers.at(-1)?.laid;
      laid?.set(feed, (laid?.get(feed) ?? 0) + length);
    }
  }
  return layers;
}

/** The feed at which most of a layer is laid, mm/s. */
export function mainSpeed({ laid }: ReadLayer): number {
  return [...laid].reduce((best, one) => (one[1] > best[1] ? one : best), [NaN, 0])[0];
}
