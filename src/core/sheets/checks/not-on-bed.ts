import { plainNumber } from "../../units";
import type { SheetCheck } from "./check";

/** A first layer sticks up to so much of the nozzle's width. Common practice, no source. */
const HIGHEST_FIRST = 0.8;

export const notOnBed: SheetCheck = {
  key: "not-on-bed",
  passes: "The first stroke lies on the bed.",
  run({ report, printer }) {
    const [first] = report.layers;
    if (!first || first.zMm <= HIGHEST_FIRST * printer.nozzleMm + 1e-6) return [];
    return [
      {
        check: "not-on-bed",
        severity: "warn",
        where: "layer 1",
        message: `The first stroke lies ${plainNumber(first.zMm, 2)} mm above the bed: it does not touch it.`,
      },
    ];
  },
};
