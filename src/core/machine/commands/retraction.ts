import { feedMmMinToMmS } from "../../units";
import { Command } from "../command";
import { EventKind } from "../event-kind";

/**
 * Retraction by the firmware itself. What G10 draws back is the printer's own until the program says it: a program without M207 does
 * not draw back 0 mm, but a length that is not known. Common practice, no source.
 */
export const retraction: Command[] = [
  {
    code: "G10",
    does: "Draws the filament back as M207 says",
    words: { S: "1 for a tool change; with P a tool's temperature, °C", P: "tool", R: "its temperature at rest, °C" },
    moves: "draw-back",
    act(state, words, tell, { setsToolsByG10 }) {
      // With P and S it sets a tool's temperature in one dialect, and offsets in others: it moves no filament then.
      const tool = words.value("P");
      const target = words.value("S");
      if (tool >= 0 && !Number.isNaN(target) && setsToolsByG10) tell(EventKind.nozzleTemperature, target, tool);
      if (words.count > 1 || (words.count === 1 && !words.has("S"))) return;
      state.drawnBack = true;
    },
  },
  {
    code: "G11",
    does: "Gives the filament back as M208 says",
    moves: "give-back",
    act: (state) => void (state.drawnBack = false),
  },
  {
    code: "M207",
    does: "How the firmware draws back (G10)",
    words: { S: "length, mm", F: "speed, mm/min", Z: "lift, mm" },
    example: "M207 S4 F2100",
    act(state, words, tell) {
      const length = words.value("S");
      const feed = words.value("F");
      if (length >= 0) tell(EventKind.firmwareRetractLength, length, state.tool);
      if (feed > 0) tell(EventKind.firmwareRetractSpeed, feedMmMinToMmS(feed), state.tool);
    },
  },
  {
    code: "M208",
    does: "How the firmware gives back (G11)",
    words: { S: "more than was drawn back, mm", F: "speed, mm/min" },
    act(state, words) {
      const extra = words.value("S");
      if (!Number.isNaN(extra)) state.restoreExtraMm = extra;
    },
  },
  {
    code: "SET_RETRACTION",
    does: "How the firmware draws back; without values it reports it",
    words: { RETRACT_LENGTH: "length, mm", RETRACT_SPEED: "speed, mm/s" },
    act(state, words, tell) {
      const length = words.value("RETRACT_LENGTH");
      const speed = words.value("RETRACT_SPEED");
      if (length >= 0) tell(EventKind.firmwareRetractLength, length, state.tool);
      if (speed > 0) tell(EventKind.firmwareRetractSpeed, speed, state.tool);
    },
  },
];
