/** The machine's state in the middle of a program. */
import type { MachineState } from "../machine/state";
import { ReaderOptions, readProgram } from "./read";

/** What the machine holds when line `line` (from 0) of the program has been obeyed. */
export function stateBehind(bytes: Uint8Array, line: number, options: ReaderOptions): MachineState {
  let end = 0;
  for (let passed = 0; passed <= line && end < bytes.length; passed++) {
    const next = bytes.indexOf(10, end);
    end = next < 0 ? bytes.length : next + 1;
  }
  return readProgram(bytes.subarray(0, end), options).endState;
}
