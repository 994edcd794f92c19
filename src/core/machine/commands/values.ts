import { Command } from "../command";
import { EventKind } from "../event-kind";

const axes = { X: "X, mm", Y: "Y, mm", Z: "Z, mm" };
const steps = { X: "X, steps/mm", Y: "Y, steps/mm", Z: "Z, steps/mm", E: "extruder, steps/mm", T: "tool" };

/** Values and what is kept of them. Common practice, no source. */
export const values: Command[] = [
  { code: "M92", does: "Steps per millimetre", words: steps, example: "M92 E405" },
  {
    code: "M206",
    does: "Home offset: added to the position at the endstop",
    words: axes,
    example: "M206 X0 Y0",
    // In force from the next homing on; see `homing.ts` for the sign.
    act(state, words) {
      for (const axis of ["x", "y", "z"] as const) {
        const offset = words.value(axis.toUpperCase());
        if (!Number.isNaN(offset)) state.homeOffsetMm[axis] = offset * state.unitMm;
      }
    },
  },
  {
    code: "M218",
    does: "Where the nozzle of a tool stands from the first",
    words: { T: "tool", ...axes },
    example: "M218 T1 X18 Y0",
    act(state, words, tell) {
      const [x, y] = [words.value("X") || 0, words.value("Y") || 0];
      const tool = words.value("T");
      tell(EventKind.toolOffset, Math.hypot(x, y) * state.unitMm, Number.isNaN(tool) ? state.tool : tool);
    },
  },
  { code: "M851", does: "Offset of the probe from the nozzle", words: axes },
  {
    code: "M500",
    does: "Saves the values set now",
    danger: { kind: "saving", reason: "Overwrites the values saved in the printer with those set now." },
  },
  { code: "M501", does: "Loads the saved values" },
  {
    code: "M502",
    does: "Loads the factory's values (does not save them)",
    danger: { kind: "saving", reason: "Replaces every value set now by the factory's." },
  },
  { code: "M503", does: "Reports the values set now", asks: "values" },
  {
    code: "SAVE_CONFIG",
    does: "Saves the values and starts the printer anew",
    waits: "start",
    danger: { kind: "saving", reason: "Overwrites the saved values and starts the printer anew: heaters go off." },
  },
];
