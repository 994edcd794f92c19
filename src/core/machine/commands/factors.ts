import { Command } from "../command";
import { EventKind } from "../event-kind";
import { countByVolume } from "../state";
import { toolOf } from "./heat";

/** Factors over everything the program says. 100 % is what they are defined by. Common practice, no source. */
export const factors: Command[] = [
  {
    code: "M200",
    does: "Counts filament by its volume",
    words: { D: "thickness of the filament, mm; 0 to count by length again", T: "tool" },
    example: "M200 D0",
    act(state, words) {
      const diameterMm = words.value("D");
      if (diameterMm >= 0) countByVolume(state, toolOf(state, words), diameterMm * state.unitMm);
    },
  },
  {
    code: "M220",
    does: "Feed factor",
    words: { S: "percent" },
    example: "M220 S100",
    act(state, words, tell) {
      const percent = words.value("S");
      if (!Number.isNaN(percent)) tell(EventKind.speedFactor, percent, state.tool);
    },
  },
  {
    code: "M221",
    does: "Flow factor",
    words: { S: "percent", T: "tool" },
    example: "M221 S100",
    act(state, words, tell) {
      const percent = words.value("S");
      if (!Number.isNaN(percent)) tell(EventKind.flowFactor, percent, toolOf(state, words));
    },
  },
];
