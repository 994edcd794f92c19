/** The machine's state in the middle of a program. */
import type { MachineState } from "../machine/state";
import { ProgramReader, ReaderOptions } from "./read";

/**
 * What the machine holds when line `line` (from 0) of the program has been obeyed. What its figures tell further down of how they count holds
 * there, too.
 *
 * @param chunks the program's bytes; read as far as is needed
 */
export function stateBehind(chunks: Iterable<Uint8Array>, line: number, options: ReaderOptions): MachineState {
  const reader = new ProgramReader(0, { ...options, lastLine: line });
  for (const chunk of chunks) {
    reader.push(chunk);
    if (reader.isBehindLastLine) break;
  }
  return reader.finish().endState;
}
