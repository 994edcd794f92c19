/** Where a print stands when a line of its program has been taken. */
import { laysMaterial } from "../gcode/moves";
import { ProgramTables } from "../gcode/tables";

export interface LineProgress {
  /** By line of the program, from 0: height of the last material laid up to there, mm. */
  heightMm: Float32Array;
  /** Seconds of moving up to there, heating and homing not counted. */
  seconds: Float32Array;
}

/** Height and time at every line; `moveSeconds` are those of the moves (see `motion/duration`). */
export function lineProgress({ lineCount, moves }: ProgramTables, moveSeconds: Float32Array): LineProgress {
  const heightMm = new Float32Array(lineCount + 1);
  const seconds = new Float32Array(lineCount + 1);
  let height = 0;
  let passed = 0;
  let move = 0;
  for (let line = 0; line <= lineCount; line++) {
    for (; move < moves.count && moves.line[move] <= line; move++) {
      passed += moveSeconds[move];
      if (laysMaterial(moves.kind[move]) && moves.layer[move] >= 0) height = moves.z[move];
    }
    heightMm[line] = height;
    seconds[line] = passed;
  }
  return { heightMm, seconds };
}
