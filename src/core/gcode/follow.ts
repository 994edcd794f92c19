/** A line of talk obeyed: what a printer is told by it. */
import { hasCommand } from "../machine/command";
import { followArc, followStraight } from "../machine/motion";
import { obey } from "../machine/obey";
import { Reading, usualReading } from "../machine/reading";
import { freshState, MachineState } from "../machine/state";
import { forEachTalked } from "./talk-line";

/** Follows one line that a printer has taken; changes `state`. Commands the printer does not have change nothing. */
export function follow(state: MachineState, text: string, reading: Reading = usualReading): void {
  forEachTalked(text, (command, words) => {
    if (!command || !hasCommand(command, reading)) return;
    obey(state, command, words, reading);
    if (command.moves === "straight") followStraight(state, words);
    else if (command.moves === "clockwise" || command.moves === "counter-clockwise") followArc(state, words);
  });
}

/**
 * The state behind some lines.
 *
 * @example
 * stateAfter(["M104 S215", "G92 X5"]).nozzleC[0]; // 215
 */
export function stateAfter(lines: readonly string[], reading: Reading = usualReading): MachineState {
  const state = freshState();
  for (const line of lines) follow(state, line, reading);
  return state;
}
