/** A command obeyed: its effect on the state, told quantities included. Moves themselves are `motion.ts`. */
import { Command, Tell } from "./command";
import { Reading } from "./reading";
import { MachineState, takeTold } from "./state";
import { Words } from "./words";

/**
 * Lets a command act on the state; changes `state`.
 *
 * @param onTold hears every quantity the command tells, as it is told
 */
export function obey(state: MachineState, command: Command, words: Words, reading: Reading, onTold?: Tell): void {
  command.act?.(
    state,
    words,
    (kind, value, index) => {
      takeTold(state, kind, value, index);
      onTold?.(kind, value, index);
    },
    reading,
  );
}
