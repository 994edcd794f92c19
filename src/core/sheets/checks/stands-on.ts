/** Does every stroke stand on something, at the height its bead is? Places of every stroke are held against what was laid below them. */
import { laysMaterial } from "../../gcode/moves";
import { plainNumber } from "../../units";
import { rowName, SheetCheck, SheetContext } from "./check";

const CELL_MM = 0.5;
/** Cells along a side; a bed is no wider than they reach (512 mm). */
const SIDE = 1024;
const STEP_MM = 1;
/** A bead is pressed when less than this of its height is free below it, and hangs when more than this is. Common practice, no source. */
const PRESSED_BELOW = 0.6;
const HANGS_ABOVE = 1.5;
/** So much of a stroke must be so for it to be worth a word. */
const MOST_OF_IT = 0.6;
/** So near along a stroke its places are one bead, mm. */
const OWN_MM = 3;
/** Shorter strokes are dots, mm. */
const SHORTEST_MM = 2;

interface Stroke {
  row: number;
  layer: number;
  heightMm: number;
  zMm: number;
  samples: number;
  pressed: number;
  hanging: number;
  gapMm: number;
}

export const standsOn: SheetCheck = {
  key: "stands-on",
  passes: "Every stroke stands on what is below it, as high as its bead is.",
  run(context) {
    const strokes = strokesOf(context).filter(({ samples }) => samples * STEP_MM >= SHORTEST_MM);
    const name = ({ row, layer }: Stroke) => `${rowName(context.laid.fields[row])}, layer ${layer + 1}`;
    const gap = ({ gapMm, hanging, pressed }: Stroke) => plainNumber(gapMm / Math.max(1, hanging + pressed), 2);
    const floating = strokes.find(({ hanging, samples }) => hanging === samples);
    const pressed = strokes.find((one) => one.pressed > MOST_OF_IT * one.samples);
    return [
      ...(floating
        ? [
            {
              check: "stands-on",
              severity: "warn" as const,
              where: name(floating),
              message: `The stroke at ${plainNumber(floating.zMm, 2)} mm has nothing under it: the piece below is ${gap(floating)} mm lower, and its bead ${plainNumber(floating.heightMm, 2)} mm high.`,
            },
          ]
        : []),
      ...(pressed
        ? [
            {
              check: "stands-on",
              severity: "warn" as const,
              where: name(pressed),
              message: `The stroke at ${plainNumber(pressed.zMm, 2)} mm is ${gap(pressed)} mm above the piece below it, and its bead ${plainNumber(pressed.heightMm, 2)} mm high: too much material for the gap.`,
            },
          ]
        : []),
    ];
  },
};

/** What each stroke stands on, by samples along it. */
function strokesOf({ laid }: SheetContext): Stroke[] {
  const { moves, stroke, row, beadHeights } = laid;
  const { x, y, z, kind, layer } = moves;
  /** The highest that was laid in a cell, and what was below that. */
  const top = new Float32Array(SIDE * SIDE);
  const below = new Float32Array(SIDE * SIDE);
  /** How far along everything that was laid the cell was come to last, mm. */
  const topAlong = new Float64Array(SIDE * SIDE);
  const topStroke = new Uint32Array(SIDE * SIDE).fill(0xffffffff);
  const strokes: Stroke[] = [];
  let now: Stroke | null = null;
  let last = -1;
  let along = 0;
  for (let i = 1; i < moves.count; i++) {
    if (!laysMaterial(kind[i])) continue;
    if (stroke[i] !== last) {
      last = stroke[i];
      now = {
        row: row[i],
        layer: layer[i],
        heightMm: beadHeights[last] ?? 0,
        zMm: z[i],
        samples: 0,
        pressed: 0,
        hanging: 0,
        gapMm: 0,
      };
      if (now.heightMm > 0) strokes.push(now);
    }
    const lengthMm = Math.hypot(x[i] - x[i - 1], y[i] - y[i - 1]);
    const steps = Math.max(1, Math.round(lengthMm / STEP_MM));
    for (let n = 1; n <= steps; n++) {
      const share = n / steps;
      const [px, py, pz] = [
        x[i - 1] + (x[i] - x[i - 1]) * share,
        y[i - 1] + (y[i] - y[i - 1]) * share,
        z[i - 1] + (z[i] - z[i - 1]) * share,
      ];
      const cell = cellAt(px, py);
      // A wall that climbs stands on its own turn below; what was laid just before is the bead itself.
      const isOwn = Math.abs(top[cell] - pz) < 1e-3 || (topStroke[cell] === last && along - topAlong[cell] < OWN_MM);
      const standsAt = isOwn ? below[cell] : highestAround(top, below, cell, pz);
      look(now!, pz - standsAt);
      if (!isOwn) below[cell] = top[cell];
      if (pz > top[cell] || !isOwn) top[cell] = pz;
      topStroke[cell] = last;
      topAlong[cell] = along;
      along += lengthMm / steps;
    }
  }
  return strokes;
}

function look(stroke: Stroke, gapMm: number): void {
  stroke.samples++;
  if (gapMm > HANGS_ABOVE * stroke.heightMm) stroke.hanging++;
  else if (gapMm < PRESSED_BELOW * stroke.heightMm) stroke.pressed++;
  else return;
  stroke.gapMm += gapMm;
}

/** The highest below a height that a bead there touches: in its own cell or one beside it. */
function highestAround(top: Float32Array, below: Float32Array, cell: number, z: number): number {
  let highest = 0;
  for (const by of AROUND) {
    const at = (cell + by) & (SIDE * SIDE - 1);
    const height = top[at] < z - 1e-3 ? top[at] : below[at];
    if (height > highest && height < z - 1e-3) highest = height;
  }
  return highest;
}

const AROUND = [-1, 0, 1].flatMap((row) => [-1, 0, 1].map((column) => row * SIDE + column));

const cellAt = (x: number, y: number): number =>
  ((Math.floor(y / CELL_MM) + SIDE * 8) & (SIDE - 1)) * SIDE + ((Math.floor(x / CELL_MM) + SIDE * 8) & (SIDE - 1));
