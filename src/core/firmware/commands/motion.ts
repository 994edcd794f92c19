import { Command } from "./command";

const axes = { X: "X, mm", Y: "Y, mm", Z: "Z, mm", E: "filament, mm" };
const arc = {
  ...axes,
  I: "centre in X from here, mm",
  J: "centre in Y from here, mm",
  R: "radius, mm",
  F: "feed, mm/min",
};
const each = (what: string) => ({ X: `X, ${what}`, Y: `Y, ${what}`, Z: `Z, ${what}`, E: `extruder, ${what}` });

/**
 * Moving. G0–G3, G17–G21 and G90–G92 after NIST RS274/NGC Interpreter, version 3 (NISTIR 6556); the others are common
 * practice, no source.
 */
export const motion: Command[] = [
  { code: "G0", does: "Moves in a straight line", words: { ...axes, F: "feed, mm/min" }, example: "G0 X10 Y10 F6000" },
  { code: "G1", does: "Moves in a straight line", words: { ...axes, F: "feed, mm/min" }, example: "G1 X10 F3000" },
  { code: "G2", does: "Moves on an arc, clockwise", words: arc },
  { code: "G3", does: "Moves on an arc, counter-clockwise", words: arc },
  { code: "G4", does: "Waits", words: { P: "milliseconds", S: "seconds" }, example: "G4 S1" },
  { code: "G10", does: "Draws the filament back as M207 says", words: { S: "1 for a tool change" } },
  { code: "G11", does: "Gives the filament back as M208 says" },
  { code: "G20", does: "Counts in inches from here on" },
  { code: "G21", does: "Counts in millimetres from here on" },
  {
    code: "G28",
    does: "Homes the axes named, or all",
    words: { X: "X axis", Y: "Y axis", Z: "Z axis" },
    example: "G28",
  },
  { code: "G90", does: "Positions count from zero" },
  { code: "G91", does: "Positions count from where it stands" },
  { code: "G92", does: "Names the present position, without moving", words: axes, example: "G92 E0" },
  { code: "M17", does: "Motors on" },
  { code: "M18", does: "Motors off", words: { X: "X only", Y: "Y only", Z: "Z only", E: "extruder only" } },
  { code: "M82", does: "E counts from zero" },
  { code: "M83", does: "E counts from where it stands" },
  {
    code: "M84",
    does: "Motors off",
    words: { X: "X only", Y: "Y only", Z: "Z only", E: "extruder only", S: "after so many seconds" },
  },
  { code: "M92", does: "Steps per millimetre", words: { ...each("steps/mm"), T: "tool" }, example: "M92 E405" },
  { code: "M114", does: "Asks where it stands" },
  { code: "M201", does: "Highest acceleration of each axis", words: each("mm/s²"), example: "M201 X1000 Y1000" },
  {
    code: "M203",
    does: "Highest feed of each axis",
    words: each("mm/s (mm/min where the firmware counts so)"),
    example: "M203 X300 Y300",
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
  },
  { code: "M206", does: "Home offset", words: axes, example: "M206 X0 Y0" },
  { code: "M220", does: "Feed factor", words: { S: "percent" }, example: "M220 S100" },
  { code: "M400", does: "Waits until all moves are done" },
  { code: "M410", does: "Stops all moves now" },
  { code: "M566", does: "Cornering", words: each("jerk, mm/min"), example: "M566 X480 Y480" },
  { code: "M851", does: "Offset of the probe from the nozzle", words: axes },
  { code: "T0", does: "Chooses the first tool" },
  { code: "T1", does: "Chooses the second tool" },
];
