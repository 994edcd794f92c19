import { Command } from "../command";
import { countedAfterHomingMm } from "../homing";
import { EventKind } from "../event-kind";

const axes = { X: "X, mm", Y: "Y, mm", Z: "Z, mm", E: "filament, mm" };
const arc = {
  ...axes,
  I: "centre in X from here, mm",
  J: "centre in Y from here, mm",
  K: "centre in Z from here, mm",
  R: "radius, mm",
  F: "feed, mm/min",
};

/**
 * Moving. G0–G3, G4, G17–G19 and G28 after NIST RS274/NGC Interpreter, version 3 (NISTIR 6556); G4 S, filament on E and homing by
 * endstops are common practice, no source.
 */
export const motion: Command[] = [
  {
    code: "G0",
    does: "Moves in a straight line",
    words: { ...axes, F: "feed, mm/min" },
    example: "G0 X10 Y10 F6000",
    moves: "straight",
    act: (state) => void (state.motion = 0),
  },
  {
    code: "G1",
    does: "Moves in a straight line",
    words: { ...axes, F: "feed, mm/min" },
    example: "G1 X10 F3000",
    moves: "straight",
    act: (state) => void (state.motion = 1),
  },
  {
    code: "G2",
    does: "Moves on an arc, clockwise",
    words: arc,
    moves: "clockwise",
    act: (state) => void (state.motion = 2),
  },
  {
    code: "G3",
    does: "Moves on an arc, counter-clockwise",
    words: arc,
    moves: "counter-clockwise",
    act: (state) => void (state.motion = 3),
  },
  {
    code: "G4",
    does: "Waits",
    words: { P: "milliseconds", S: "seconds" },
    example: "G4 S1",
    waits: "dwell",
    act(state, words, tell) {
      const seconds = words.value("S");
      const dwell = Number.isNaN(seconds) ? words.value("P") / 1000 : seconds;
      if (dwell > 0) tell(EventKind.dwell, dwell, state.tool);
    },
  },
  { code: "G17", does: "Arcs are in the XY plane", act: (state) => void (state.plane = 17) },
  { code: "G18", does: "Arcs are in the ZX plane", act: (state) => void (state.plane = 18) },
  { code: "G19", does: "Arcs are in the YZ plane", act: (state) => void (state.plane = 19) },
  {
    code: "G28",
    does: "Homes the axes named, or all",
    words: { X: "X axis", Y: "Y axis", Z: "Z axis" },
    example: "G28",
    moves: "home",
    waits: "homing",
    // The endstop is taken for the machine's zero; what the axis counts itself at there is the home offset's business.
    act(state, words) {
      const all = !(words.has("X") || words.has("Y") || words.has("Z"));
      const { homeOffsetMm } = state;
      if (all || words.has("X")) {
        state.x = countedAfterHomingMm(0, homeOffsetMm.x);
        state.offsetX = 0;
        state.homedX = state.knownX = true;
      }
      if (all || words.has("Y")) {
        state.y = countedAfterHomingMm(0, homeOffsetMm.y);
        state.offsetY = 0;
        state.homedY = state.knownY = true;
      }
      if (all || words.has("Z")) {
        state.z = countedAfterHomingMm(0, homeOffsetMm.z);
        state.offsetZ = 0;
        state.homedZ = state.knownZ = true;
      }
      state.motorsOn = true;
    },
  },
  { code: "G29", does: "Feels out the bed", waits: "probing" },
  { code: "G30", does: "Feels out one place of the bed", words: { X: "X, mm", Y: "Y, mm" }, waits: "probing" },
  { code: "G34", does: "Sets the Z motors level with one another", waits: "probing" },
  {
    code: "M17",
    does: "Motors on",
    act: (state, _, tell) => tell(EventKind.motorsOn, 1, state.tool),
  },
  ...["M18", "M84"].map((code): Command => ({
    code,
    does: "Motors off",
    words: {
      X: "X only",
      Y: "Y only",
      Z: "Z only",
      E: "extruder only",
      ...(code === "M84" ? { S: "after so many seconds" } : {}),
    },
    waits: "still",
    act(state, words, tell) {
      // With axes named, the others keep holding.
      if (words.count === 0) return tell(EventKind.motorsOff, 1, state.tool);
      if (words.has("X")) state.homedX = false;
      if (words.has("Y")) state.homedY = false;
      if (words.has("Z")) state.homedZ = false;
      if (["X", "Y", "Z", "E"].some((axis) => words.has(axis))) tell(EventKind.someMotorsOff, 1, state.tool);
    },
  })),
  { code: "M400", does: "Waits until all moves are done", waits: "still" },
  { code: "M410", does: "Stops all moves now" },
];
