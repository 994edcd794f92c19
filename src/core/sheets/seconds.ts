/** How long the moves of a sheet take. */
import type { MoveTable } from "../gcode/moves";
import { moveSeconds, MotionLimits } from "../motion/duration";

/** Seconds of every move. A table of moves begins at 0, 0, 0; a sheet's nozzle stands at its first place already. */
export function secondsOfMoves(moves: MoveTable, limits: MotionLimits): Float32Array {
  const seconds = moveSeconds(moves, null, limits);
  if (moves.count > 0) seconds[0] = 0;
  return seconds;
}
