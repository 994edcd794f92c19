/** Layers that would be done before they can cool are laid slower. */
import { MoveKind, MoveTable } from "../gcode/moves";
import { moveSeconds, MotionLimits } from "../motion/duration";
import { Process } from "./process";

/** Rounds of slowing: short lines never reach their speed, so that lowering it helps less than in proportion. */
const MOST_ROUNDS = 6;
const CLOSE_ENOUGH = 0.98;

/**
 * A layer that would be done before it can cool is laid slower; travels and bridges keep their speed. Returns the seconds of
 * every move as it is then.
 */
export function slowSmallLayers(
  moves: MoveTable,
  layerStarts: readonly number[],
  processOf: (layer: number) => Process,
  limits: MotionLimits,
): Float32Array {
  let seconds = moveSeconds(moves, null, limits);
  for (let round = 0; round < MOST_ROUNDS; round++) {
    let slowed = false;
    for (let layer = 0; layer + 1 < layerStarts.length; layer++) {
      const process = processOf(layer);
      if (process.smallestLayerSeconds <= 0) continue;
      let total = 0;
      let slowable = 0;
      for (let i = layerStarts[layer]; i < layerStarts[layer + 1]; i++) {
        total += seconds[i];
        if (canSlow(moves.kind[i]) && moves.feedMmS[i] > process.slowestMmS) slowable += seconds[i];
      }
      if (total >= process.smallestLayerSeconds * CLOSE_ENOUGH || slowable <= 0) continue;
      slowed = true;
      const share = slowable / (slowable + process.smallestLayerSeconds - total);
      for (let i = layerStarts[layer]; i < layerStarts[layer + 1]; i++) {
        if (canSlow(moves.kind[i])) moves.feedMmS[i] = Math.max(process.slowestMmS, moves.feedMmS[i] * share);
      }
    }
    if (!slowed) break;
    seconds = moveSeconds(moves, null, limits);
  }
  return seconds;
}

function canSlow(kind: number): boolean {
  return kind >= MoveKind.outerWall && kind !== MoveKind.bridge;
}
