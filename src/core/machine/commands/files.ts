import { Command } from "../command";

const text = (code: string, does: string): Command => ({ code, does, takesText: true });
const stop = (code: string): Command => ({ ...text(code, "Stops until somebody goes on"), waits: "person" });
const parts = { X: "parks at X, mm", Y: "parks at Y, mm", Z: "lifts by, mm" };

/** Pauses and the printer's own storage: what stands behind these is text, whatever letters are in it. Common practice, no source. */
export const files: Command[] = [
  stop("M0"),
  stop("M1"),
  { code: "M125", does: "Parks the nozzle and stops until someone continues", words: parts, waits: "person" },
  { code: "M226", does: "Stops until a pin is pressed", words: { P: "pin", S: "state" }, waits: "person" },
  {
    code: "M600",
    does: "Parks the nozzle and waits until the filament is changed",
    words: { ...parts, E: "draws back, mm", T: "tool" },
    waits: "person",
  },
  { code: "M601", does: "Pauses the print until someone continues it", waits: "person" },
  { code: "M701", does: "Feeds filament in up to the nozzle", words: { L: "length, mm", T: "tool" }, waits: "person" },
  { code: "M702", does: "Draws the filament out", words: { U: "length, mm", T: "tool" }, waits: "person" },
  text("M16", "Goes on only on the printer of this name"),
  { code: "M20", does: "Lists the files on the card", asks: "text" },
  { code: "M21", does: "Makes the card ready" },
  text("M23", "Chooses a file on the card"),
  { code: "M24", does: "Starts the chosen file" },
  { code: "M25", does: "Stops the chosen file for now" },
  text("M28", "Begins to write a file on the card"),
  { code: "M29", does: "Ends writing a file on the card" },
  text("M30", "Takes a file off the card"),
  { code: "M31", does: "Asks how long the print has run", asks: "text" },
  text("M32", "Chooses and starts a file on the card"),
  text("M33", "Asks for the long name of a file"),
  text("M36", "Asks about a file on the card"),
  text("M928", "Writes what comes into a file on the card"),
];
