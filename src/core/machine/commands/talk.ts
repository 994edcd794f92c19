import { Command } from "../command";
import { EventKind } from "../event-kind";
import { freshState, MOST_TOOLS } from "../state";

const chooses = (tool: number, which: string): Command => ({
  code: `T${tool}`,
  does: `Chooses ${which} tool`,
  act(_, __, tell) {
    if (tool < MOST_TOOLS) tell(EventKind.tool, tool, tool);
  },
});

/** Choosing tools, asking, showing and stopping. Common practice, no source. */
export const talk: Command[] = [
  chooses(0, "the first"),
  chooses(1, "the second"),
  { code: "M73", does: "Shows how far the print is", words: { P: "percent done", R: "minutes left" } },
  { code: "M75", does: "Starts the print's clock" },
  { code: "M76", does: "Stops the print's clock for now" },
  { code: "M77", does: "Stops the print's clock" },
  { code: "M110", does: "Sets the number of the next numbered line", words: { N: "number" } },
  { code: "M111", does: "Says how much the printer reports of itself", words: { S: "level" } },
  {
    code: "M112",
    does: "Emergency stop: everything off until a reset",
    act: (state) => void Object.assign(state, freshState()),
  },
  { code: "M113", does: "How often a busy printer says so", words: { S: "seconds" } },
  { code: "M114", does: "Asks where it stands", asks: "position" },
  { code: "M115", does: "Asks what the firmware is and can do", asks: "identity" },
  { code: "M117", does: "Shows a text on the display", takesText: true, example: "M117 Hello", act: shows },
  { code: "M118", does: "Sends a text back", takesText: true, asks: "text" },
  { code: "M119", does: "Asks for the endstops", asks: "text" },
  { code: "M120", does: "Endstops on" },
  { code: "M121", does: "Endstops off" },
  { code: "M211", does: "Whether moves are held inside the machine", words: { S: "1 to hold them" } },
  { code: "M300", does: "Sounds a tone", words: { S: "hertz", P: "milliseconds" } },
  { code: "M302", does: "Coldest temperature at which filament is fed", words: { S: "°C", P: "1 to feed cold" } },
  { code: "M420", does: "Whether the felt-out bed is followed", words: { S: "1 to follow it" } },
];

/** The tool command for a number the table has no line of its own for. */
export function choosesTool(tool: number): Command {
  return { ...chooses(tool, ""), does: "Chooses a tool" };
}

function shows(...[state, words]: Parameters<NonNullable<Command["act"]>>): void {
  state.display = words.text;
}
