import { plainNumber } from "../../units";
import { rowName, SheetCheck } from "./check";

/** A nozzle lays beads that are at most so high by its bore. Common practice, no source. */
const HIGHEST_SHARE = 0.8;

/** Beads that a nozzle cannot lay: higher than its bore lets them be. */
export const beadShape: SheetCheck = {
  key: "bead-shape",
  passes: null,
  run({ laid, printer }) {
    const most = HIGHEST_SHARE * printer.nozzleMm;
    for (let i = 0; i < laid.moves.count; i++) {
      const heightMm = laid.beadHeights[laid.stroke[i]];
      if (!(heightMm > most + 1e-6)) continue;
      return [
        {
          check: "bead-shape",
          severity: "warn",
          where: rowName(laid.fields[laid.row[i]]),
          message: `Its bead is ${plainNumber(heightMm, 2)} mm high; a ${plainNumber(printer.nozzleMm)} mm nozzle lays up to ${plainNumber(most, 2)} mm.`,
        },
      ];
    }
    return [];
  },
};
