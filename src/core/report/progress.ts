/** A program as a job: where the print stands when a line of it has been taken, and what its height log shows from the start. */
import { laysMaterial } from "../gcode/moves";
import { ProgramTables } from "../gcode/tables";
import { countCommands } from "../gcode/transmit";
import { MotionLimits } from "../motion/duration";
import { SettingKey } from "../settings";
import { reportOf } from "./report";

/** What the height log of a job shows from the start. */
export interface JobLog {
  tops: number[];
  minX: number[];
  maxX: number[];
  /** Values in force per layer; null where the program has not said anything. */
  settings: Record<SettingKey, (number | null)[]>;
  /** Without heating up and homing. */
  seconds: number;
}

export interface LineProgress {
  /** By line of the program, from 0: height of the last material laid up to there, mm. */
  heightMm: Float32Array;
  /** Seconds of moving up to there, heating and homing not counted. */
  seconds: Float32Array;
}

export interface JobProgram extends LineProgress {
  bytes: Uint8Array;
  /** Lines that hold a command. */
  commands: number;
  log: JobLog;
}

/** All a job needs of a program: its bytes, what was read from them, and what the machine can do. */
export function jobProgram(bytes: Uint8Array, tables: ProgramTables, limits: MotionLimits): JobProgram {
  const { report, seconds } = reportOf(tables, limits);
  const { layers } = report;
  return {
    bytes,
    commands: countCommands(bytes),
    ...lineProgress(tables, seconds),
    log: {
      tops: layers.map(({ zMm }) => zMm),
      minX: layers.map(({ minX }) => minX),
      maxX: layers.map(({ maxX }) => maxX),
      settings: report.settings,
      seconds: report.seconds,
    },
  };
}

/** Height and time at every line; `moveSeconds` are those of the moves (see `motion/duration`). */
function lineProgress({ lineCount, moves }: ProgramTables, moveSeconds: Float32Array): LineProgress {
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
