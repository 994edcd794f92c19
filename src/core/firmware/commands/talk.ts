import { Command } from "./command";

/** Asking, showing and stopping. Common practice, no source. */
export const talk: Command[] = [
  { code: "M73", does: "Shows how far the print is", words: { P: "percent done", R: "minutes left" } },
  { code: "M110", does: "Sets the number of the next numbered line", words: { N: "number" } },
  { code: "M112", does: "Emergency stop: everything off until a reset" },
  { code: "M115", does: "Asks what the firmware is and can do" },
  { code: "M117", does: "Shows a text on the display", takesText: true, example: "M117 Hello" },
  { code: "M118", does: "Sends a text back", takesText: true },
];
