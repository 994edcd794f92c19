import { Command } from "../command";
import { EventKind } from "../event-kind";
import { Reading } from "../reading";
import { MachineState } from "../state";
import { Words } from "../words";

/** The fan meant: the one named, else the active tool's where every tool has one, else the first. */
function fanOf(state: MachineState, words: Words, name: string, { fanPerTool }: Reading): number {
  const named = words.value(name);
  if (!Number.isNaN(named)) return named;
  return fanPerTool ? state.tool : 0;
}

/** Part fans. Common practice, no source. */
export const fans: Command[] = [
  {
    code: "M106",
    does: "Part fan on",
    words: { S: "duty, 0–255", P: "fan" },
    example: "M106 S128",
    act(state, words, tell, reading) {
      const duty = words.value("S");
      tell(EventKind.fan, Number.isNaN(duty) ? 255 : duty, fanOf(state, words, "P", reading));
    },
  },
  {
    code: "M107",
    does: "Part fan off",
    words: { P: "fan" },
    act: (state, words, tell, reading) => tell(EventKind.fan, 0, fanOf(state, words, "P", reading)),
  },
  {
    code: "M126",
    does: "Opens the valve of the part fan (on)",
    words: { T: "fan" },
    act: (state, words, tell, reading) => tell(EventKind.fan, 255, fanOf(state, words, "T", reading)),
  },
  {
    code: "M127",
    does: "Closes the valve of the part fan (off)",
    words: { T: "fan" },
    act: (state, words, tell, reading) => tell(EventKind.fan, 0, fanOf(state, words, "T", reading)),
  },
];
