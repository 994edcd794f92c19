import { feedMmMinToMmS } from "../../units";
import { Command, Tell } from "../command";
import { EventKind } from "../event-kind";
import { MachineState } from "../state";
import { Words } from "../words";
import { toolOf } from "./heat";

const each = (what: string) => ({ X: `X, ${what}`, Y: `Y, ${what}`, Z: `Z, ${what}`, E: `extruder, ${what}` });

/** Tells a figure for each axis that is named; `first` is the kind of X, the others follow it. */
function tellEach(first: EventKind, state: MachineState, words: Words, tell: Tell, scale = 1): void {
  ["X", "Y", "Z", "E"].forEach((axis, i) => {
    const value = words.value(axis);
    if (!Number.isNaN(value)) tell((first + i) as EventKind, value * scale, state.tool);
  });
}

/** How fast it may speed up, turn and run. Common practice, no source. */
export const limits: Command[] = [
  {
    code: "M201",
    does: "Highest acceleration of each axis",
    words: each("mm/s²"),
    example: "M201 X1000 Y1000",
    act: (state, words, tell) => tellEach(EventKind.axisAccelerationX, state, words, tell),
  },
  {
    code: "M203",
    does: "Highest feed of each axis",
    words: each("mm/s (mm/min where the firmware counts so)"),
    example: "M203 X300 Y300",
    act: (state, words, tell, { feedsPerMinute }) =>
      tellEach(EventKind.axisFeedX, state, words, tell, feedsPerMinute ? feedMmMinToMmS(1) : 1),
  },
  {
    code: "M204",
    does: "Acceleration",
    words: {
      P: "printing, mm/s²",
      R: "retraction, mm/s²",
      T: "travelling, mm/s²",
      S: "printing and travelling, mm/s²",
    },
    example: "M204 P1000",
    // P, R and T each stand for themselves; S stands for whichever of printing and travelling is not named.
    act(state, words, tell) {
      const both = words.value("S");
      const [print, travel, retract] = [words.value("P"), words.value("T"), words.value("R")];
      const ofPrint = Number.isNaN(print) ? both : print;
      const ofTravel = Number.isNaN(travel) ? both : travel;
      if (!Number.isNaN(ofPrint)) tell(EventKind.printAcceleration, ofPrint, state.tool);
      if (!Number.isNaN(ofTravel)) tell(EventKind.travelAcceleration, ofTravel, state.tool);
      if (!Number.isNaN(retract)) tell(EventKind.retractAcceleration, retract, state.tool);
    },
  },
  {
    code: "M205",
    does: "Cornering",
    words: {
      ...each("jerk, mm/s"),
      J: "junction deviation, mm",
      S: "lowest feed printing, mm/s",
      T: "lowest feed travelling, mm/s",
      B: "shortest segment, µs",
    },
    example: "M205 X8 Y8",
    act(state, words, tell) {
      tellEach(EventKind.jerkX, state, words, tell);
      const deviation = words.value("J");
      if (!Number.isNaN(deviation)) tell(EventKind.junctionDeviation, deviation, state.tool);
    },
  },
  {
    code: "M566",
    does: "Cornering",
    words: each("jerk, mm/min"),
    example: "M566 X480 Y480",
    act: (state, words, tell) => tellEach(EventKind.jerkX, state, words, tell, feedMmMinToMmS(1)),
  },
  {
    code: "M572",
    does: "Pressure advance",
    words: { D: "extruder", S: "seconds" },
    example: "M572 D0 S0.04",
    act(state, words, tell) {
      const seconds = words.value("S");
      const drive = words.value("D");
      if (!Number.isNaN(seconds)) tell(EventKind.pressureAdvance, seconds, drive >= 0 ? drive : toolOf(state, words));
    },
  },
  {
    code: "M900",
    does: "Pressure advance",
    words: { K: "seconds", T: "tool" },
    example: "M900 K0.04",
    act(state, words, tell) {
      const seconds = Number.isNaN(words.value("K")) ? words.value("L") : words.value("K");
      if (!Number.isNaN(seconds)) tell(EventKind.pressureAdvance, seconds, toolOf(state, words));
    },
  },
  {
    code: "SET_VELOCITY_LIMIT",
    does: "Limits of motion; without values it reports them",
    words: {
      VELOCITY: "highest feed, mm/s",
      ACCEL: "acceleration, mm/s²",
      SQUARE_CORNER_VELOCITY: "speed round a right angle, mm/s",
    },
    // One acceleration for printing and travelling.
    act(state, words, tell) {
      const acceleration = words.value("ACCEL");
      const corner = words.value("SQUARE_CORNER_VELOCITY");
      if (!Number.isNaN(acceleration)) {
        tell(EventKind.printAcceleration, acceleration, state.tool);
        tell(EventKind.travelAcceleration, acceleration, state.tool);
      }
      if (!Number.isNaN(corner)) tell(EventKind.jerkX, corner, state.tool);
    },
  },
  {
    code: "SET_PRESSURE_ADVANCE",
    does: "Pressure advance; without values it reports it",
    words: { ADVANCE: "seconds" },
    act(state, words, tell) {
      const seconds = words.value("ADVANCE");
      if (!Number.isNaN(seconds)) tell(EventKind.pressureAdvance, seconds, state.tool);
    },
  },
];
