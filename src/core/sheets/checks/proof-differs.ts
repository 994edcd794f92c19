import { laysMaterial, MoveTable } from "../../gcode/moves";
import { plainNumber } from "../../units";
import type { SheetCheck } from "./check";

/** What is written is rounded to a thousandth of a millimetre, and what is fed to a hundred-thousandth. */
const LEAST_SHARE = 1e-3;
const LEAST_MM = 0.5;

/** The program read back lays what was meant: as much path, and as much filament. */
export const proofDiffers: SheetCheck = {
  key: "proof-differs",
  passes: "The program reads back as it was meant.",
  run({ laid, tables }) {
    const [meant, read] = [laidBy(laid.moves, 0), laidBy(tables.moves, tables.layers[0]?.firstMove ?? 0)];
    const differs = (a: number, b: number) => Math.abs(a - b) > Math.max(LEAST_MM, LEAST_SHARE * Math.abs(a));
    if (!differs(meant.pathMm, read.pathMm) && !differs(meant.filamentMm, read.filamentMm)) return [];
    return [
      {
        check: "proof-differs",
        severity: "stop",
        where: "the whole program",
        message: `Meant are ${plainNumber(meant.pathMm, 0)} mm of path with ${plainNumber(meant.filamentMm, 1)} mm of filament; the program lays ${plainNumber(read.pathMm, 0)} mm with ${plainNumber(read.filamentMm, 1)} mm. Look at lines of your own in the sheet.`,
      },
    ];
  },
};

function laidBy({ count, x, y, z, kind, filamentMm }: MoveTable, from: number): { pathMm: number; filamentMm: number } {
  let [pathMm, fedMm] = [0, 0];
  for (let i = Math.max(1, from); i < count; i++) {
    if (!laysMaterial(kind[i])) continue;
    pathMm += Math.hypot(x[i] - x[i - 1], y[i] - y[i - 1], z[i] - z[i - 1]);
    fedMm += filamentMm[i];
  }
  return { pathMm, filamentMm: fedMm };
}
