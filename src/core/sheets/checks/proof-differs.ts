import { laysMaterial, MoveTable } from "../../gcode/moves";
import type { ProgramTables } from "../../gcode/tables";
import { plainNumber } from "../../units";
import { rowName, SheetCheck, SheetContext } from "./check";

/** What is written is rounded to a thousandth of a millimetre, what is fed to a hundred-thousandth, a feed to a whole mm/min. */
const PLACE_MM = 2e-3;
const FED_MM = 5e-4;
const FED_SHARE = 2e-3;
const FEED_MM_S = 0.02;

/** The program read back lays what was meant, bead by bead: at its place, as much, as fast. */
export const proofDiffers: SheetCheck = {
  key: "proof-differs",
  passes: "The program reads back as intended.",
  run(context) {
    const found = firstDifference(context);
    if (!found) return [];
    return [
      {
        check: "proof-differs",
        severity: "stop",
        where: found.where,
        message: `${found.message} Look at lines of your own in the sheet.`,
      },
    ];
  },
};

/** Where the program does not lay what was meant; null where it does throughout. */
function firstDifference({ laid, tables }: SheetContext): { where: string; message: string } | null {
  const { moves: meant } = laid;
  const read = tables.moves;
  let at = firstOfPrint(tables);
  const own = laid.linesBeforeMove.size > 0;
  for (let i = 1; i < meant.count; i++) {
    if (!laysMaterial(meant.kind[i])) continue;
    const where = `${rowName(laid.fields[laid.row[i]])}, layer ${meant.layer[i] + 1}`;
    while (at < read.count && !laysMaterial(read.kind[at])) at++;
    // Lines of one's own may lay something besides: that is said as what it is.
    if (own && at < read.count && !isSameBead(meant, i, read, at)) {
      const more = nextSame(meant, i, read, at);
      if (more > at)
        return {
          where,
          message: `The program lays ${plainNumber(laidFrom(read, at, more), 1)} mm more than is meant in front of it.`,
        };
    }
    if (at >= read.count) return { where, message: "The program does not lay it." };
    if (!isSameBead(meant, i, read, at)) {
      return {
        where,
        message: `Line ${read.line[at] + 1} lays to X ${plainNumber(read.x[at], 2)}, Y ${plainNumber(read.y[at], 2)}, Z ${plainNumber(read.z[at], 2)}; meant is X ${plainNumber(meant.x[i], 2)}, Y ${plainNumber(meant.y[i], 2)}, Z ${plainNumber(meant.z[i], 2)}.`,
      };
    }
    if (Math.abs(meant.filamentMm[i] - read.filamentMm[at]) > FED_MM + FED_SHARE * meant.filamentMm[i]) {
      return {
        where,
        message: `Line ${read.line[at] + 1} feeds ${plainNumber(read.filamentMm[at], 4)} mm of filament; meant are ${plainNumber(meant.filamentMm[i], 4)} mm.`,
      };
    }
    if (Math.abs(meant.feedMmS[i] - read.feedMmS[at]) > FEED_MM_S + 1e-3 * meant.feedMmS[i]) {
      return {
        where,
        message: `Line ${read.line[at] + 1} lays at ${plainNumber(read.feedMmS[at], 1)} mm/s; meant are ${plainNumber(meant.feedMmS[i], 1)} mm/s.`,
      };
    }
    at++;
  }
  return null;
}

/** What the start lines lay is no part of the sheet. */
const firstOfPrint = ({ layers, moves }: ProgramTables): number => layers[0]?.firstMove ?? moves.count;

function isSameBead(a: MoveTable, i: number, b: MoveTable, j: number): boolean {
  const near = (p: number, q: number) => Math.abs(p - q) <= PLACE_MM;
  if (!near(a.x[i], b.x[j]) || !near(a.y[i], b.y[j]) || !near(a.z[i], b.z[j])) return false;
  return near(a.x[i - 1], b.x[j - 1]) && near(a.y[i - 1], b.y[j - 1]) && near(a.z[i - 1], b.z[j - 1]);
}

/** So many beads of one's own are looked past. */
const MOST_OWN = 5000;

function nextSame(meant: MoveTable, i: number, read: MoveTable, from: number): number {
  for (let at = from, seen = 0; at < read.count && seen < MOST_OWN; at++) {
    if (!laysMaterial(read.kind[at])) continue;
    if (isSameBead(meant, i, read, at)) return at;
    seen++;
  }
  return from;
}

function laidFrom({ x, y, z, kind }: MoveTable, from: number, to: number): number {
  let mm = 0;
  for (let i = Math.max(1, from); i < to; i++) {
    if (laysMaterial(kind[i])) mm += Math.hypot(x[i] - x[i - 1], y[i] - y[i - 1], z[i] - z[i - 1]);
  }
  return mm;
}
