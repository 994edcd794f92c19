import { Command } from "./command";

/** Values and what is kept of them. Common practice, no source. */
export const values: Command[] = [
  {
    code: "M207",
    does: "How the firmware draws back (G10)",
    words: { S: "length, mm", F: "speed, mm/min", Z: "lift, mm" },
    example: "M207 S4 F2100",
  },
  {
    code: "M208",
    does: "How the firmware gives back (G11)",
    words: { S: "more than was drawn back, mm", F: "speed, mm/min" },
  },
  { code: "M500", does: "Saves the values in force" },
  { code: "M501", does: "Loads the saved values" },
  { code: "M502", does: "Loads the factory's values (does not save them)" },
  { code: "M503", does: "Reports the values in force" },
  { code: "M572", does: "Pressure advance", words: { D: "extruder", S: "seconds" }, example: "M572 D0 S0.04" },
  { code: "M900", does: "Pressure advance", words: { K: "seconds" }, example: "M900 K0.04" },
  {
    code: "SET_VELOCITY_LIMIT",
    does: "Limits of motion; without figures it reports them",
    words: {
      VELOCITY: "highest feed, mm/s",
      ACCEL: "acceleration, mm/s²",
      SQUARE_CORNER_VELOCITY: "speed round a right angle, mm/s",
    },
  },
  {
    code: "SET_PRESSURE_ADVANCE",
    does: "Pressure advance; without figures it reports it",
    words: { ADVANCE: "seconds" },
  },
  {
    code: "SET_RETRACTION",
    does: "How the firmware draws back; without figures it reports it",
    words: { RETRACT_LENGTH: "length, mm", RETRACT_SPEED: "speed, mm/s" },
  },
  { code: "SAVE_CONFIG", does: "Saves the values and starts the printer anew" },
];
