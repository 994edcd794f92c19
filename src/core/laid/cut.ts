/** A cut through a piece: the beads that cross a plane, each with its width and height, as a saw would show them. */
import { MoveKind } from "../gcode/moves";
import type { ProgramTables } from "../gcode/tables";
import { USUAL_FILAMENT_MM2 } from "../material/bead";
import type { LayerSpan } from "./kinds";
import { fromX, fromY, strandsOf } from "./strands";

export interface CutBead {
  /** Middle across, from the left end of the cut, and top, mm. */
  acrossMm: number;
  zMm: number;
  widthMm: number;
  heightMm: number;
  isWall: boolean;
}

export interface Cut {
  /** The plane: Y of it, and where the picture begins in X, mm. */
  yMm: number;
  fromXMm: number;
  beads: CutBead[];
}

/** Beads closer than this across stand on one another, in beads. */
const SAME_COLUMN = 0.6;

/** The layers a cut looks at: those of its height, and a millimetre below. */
export function cutLayers(
  layers: ProgramTables["layers"],
  { atMm, heightMm }: { atMm: number; heightMm: number },
): LayerSpan {
  const isNear = ({ zMm }: { zMm: number }) => zMm > atMm - 1 && zMm <= atMm + heightMm;
  const from = layers.findIndex(isNear);
  return from < 0 ? { from: 0, to: 0 } : { from, to: layers.findLastIndex(isNear) + 1 };
}

/**
 * Cuts along X, `widthMm` wide from the left side of the layer in which `atMm` lies, `heightMm` high from there.
 *
 * @param kind kinds of line, see `kindsOf`
 */
export function cutThrough(
  { moves, layers }: Pick<ProgramTables, "moves" | "layers">,
  kind: Uint8Array,
  { atMm, widthMm, heightMm }: { atMm: number; widthMm: number; heightMm: number },
): Cut {
  const { from, to } = cutLayers(layers, { atMm, heightMm });
  const near = layers.slice(from, to);
  const room = { minX: Infinity, minY: Infinity, maxY: -Infinity };
  for (const { firstPrintMove, lastMove } of near) {
    for (let i = firstPrintMove; i <= lastMove; i++) {
      if (kind[i] !== MoveKind.outerWall) continue;
      room.minX = Math.min(room.minX, moves.x[i]);
      room.minY = Math.min(room.minY, moves.y[i]);
      room.maxY = Math.max(room.maxY, moves.y[i]);
    }
  }
  // A hair off the middle, so that the plane runs through no corner.
  const yMm = (room.minY + room.maxY) / 2 + 0.013;
  const fromXMm = room.minX - 1;
  const beads: CutBead[] = [];
  for (const layer of near) {
    for (const { firstMove, lastMove } of strandsOf(moves, layer)) {
      for (let i = firstMove; i <= lastMove; i++) {
        const [x0, y0, x1, y1] = [fromX(moves, i), fromY(moves, i), moves.x[i], moves.y[i]];
        if (y0 < yMm === y1 < yMm) continue;
        const acrossMm = x0 + ((x1 - x0) * (yMm - y0)) / (y1 - y0) - fromXMm;
        if (acrossMm < 0 || acrossMm > widthMm) continue;
        const areaMm2 = (moves.filamentMm[i] * USUAL_FILAMENT_MM2) / Math.hypot(x1 - x0, y1 - y0);
        const below = beads
          .filter((one) => Math.abs(one.acrossMm - acrossMm) < SAME_COLUMN * one.widthMm && one.zMm < moves.z[i] - 1e-4)
          .reduce((top, one) => Math.max(top, one.zMm), -Infinity);
        const thickMm = Number.isFinite(below) ? Math.min(1, moves.z[i] - below) : layer.heightMm;
        // Cut aslant a bead looks wider by the angle.
        const slant = Math.hypot(x1 - x0, y1 - y0) / Math.max(1e-6, Math.abs(y1 - y0));
        const own = areaMm2 / thickMm + (1 - Math.PI / 4) * thickMm;
        beads.push({
          acrossMm,
          zMm: moves.z[i],
          widthMm: Math.min(own * slant, widthMm),
          heightMm: thickMm,
          isWall: kind[i] === MoveKind.outerWall,
        });
      }
    }
  }
  return { yMm, fromXMm, beads: beads.filter(({ zMm }) => zMm > atMm) };
}
