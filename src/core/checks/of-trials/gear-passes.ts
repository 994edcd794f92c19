import { plainNumber } from "../../units";
import { Check } from "../check";

/** Passes of one point of the filament over the gear above which it is ground away and slips. Common practice, no source. */
const MOST_PASSES = 15;

/** How finely filament is looked at, mm. */
const CELL_MM = 0.1;

/**
 * The most often any point of the filament passes the gear, either way, and how much filament was in when it began to: each move covers
 * a stretch, and stretches are counted by where they begin and end.
 */
export function gearPasses(filamentMm: ArrayLike<number>, count: number): { most: number; atMm: number } {
  let at = 0;
  let furthest = 0;
  for (let i = 0; i < count; i++) {
    at += filamentMm[i];
    furthest = Math.max(furthest, at);
  }
  const steps = new Int32Array(Math.ceil(furthest / CELL_MM) + 2);
  const cell = (mm: number) => Math.max(0, Math.min(steps.length - 1, Math.round(mm / CELL_MM)));
  at = 0;
  for (let i = 0; i < count; i++) {
    const to = at + filamentMm[i];
    steps[cell(Math.min(at, to))]++;
    steps[cell(Math.max(at, to))]--;
    at = to;
  }
  let passes = 0;
  let most = 0;
  let atMm = 0;
  for (let i = 0; i < steps.length; i++) {
    passes += steps[i];
    if (passes <= most) continue;
    most = passes;
    atMm = i * CELL_MM;
  }
  return { most, atMm };
}

/** Filament that goes to and fro over the gear until it is ground away. */
export const gearPassesCheck: Check = {
  key: "gear-passes",
  passes: null,
  run({ tables, printer }) {
    if (printer.firmwareRetraction) return [];
    const { moves } = tables;
    const { most, atMm } = gearPasses(moves.filamentMm, moves.count);
    if (most <= MOST_PASSES) return [];
    let laid = 0;
    let move = 0;
    while (move < moves.count && laid < atMm) laid += moves.filamentMm[move++];
    const layer = Math.max(0, moves.layer[Math.min(move, moves.count - 1)]);
    return [
      {
        check: "gear-passes",
        severity: "note",
        where: `layer ${layer + 1}`,
        message: `One point of the filament passes the gear ${most} times (about ${plainNumber(MOST_PASSES)} are harmless). If the filament gets chewed up and slips, shorten the retraction or use fewer layers per speed.`,
      },
    ];
  },
};
