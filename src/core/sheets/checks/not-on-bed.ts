import { laysMaterial } from "../../gcode/moves";
import { plainNumber } from "../../units";
import type { SheetCheck } from "./check";

/** A first layer sticks up to so much of the nozzle's width. Common practice, no source. */
const HIGHEST_FIRST = 0.8;

export const notOnBed: SheetCheck = {
  key: "not-on-bed",
  passes: "The first stroke is on the bed.",
  run({ laid: { moves }, printer }) {
    const first = moves.kind.findIndex((kind, i) => i > 0 && laysMaterial(kind));
    const zMm = first < 0 ? 0 : Math.min(moves.z[first - 1], moves.z[first]);
    if (zMm <= HIGHEST_FIRST * printer.nozzleMm + 1e-6) return [];
    return [
      {
        check: "not-on-bed",
        severity: "warn",
        where: "layer 1",
        message: `The first stroke is ${plainNumber(zMm, 2)} mm above the bed: it does not touch it.`,
      },
    ];
  },
};
