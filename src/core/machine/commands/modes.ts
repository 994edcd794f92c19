import { MM_PER_INCH } from "../../units";
import { Command } from "../command";

/**
 * How figures are meant. G20, G21, G90–G92 after NIST RS274/NGC Interpreter, version 3 (NISTIR 6556); M82, M83, whether G90 and G91
 * carry E along, and G92 without words (an error by the standard) are common practice, no source.
 */
export const modes: Command[] = [
  { code: "G20", does: "Counts in inches from here on", act: (state) => void (state.unitMm = MM_PER_INCH) },
  { code: "G21", does: "Counts in millimetres from here on", act: (state) => void (state.unitMm = 1) },
  {
    code: "G90",
    does: "Positions count from zero",
    act(state, _words, _tell, { modesCarryE }) {
      state.relative = false;
      if (modesCarryE) state.relativeE = false;
    },
  },
  {
    code: "G91",
    does: "Positions count from where it stands",
    act(state, _words, _tell, { modesCarryE }) {
      state.relative = true;
      if (modesCarryE) state.relativeE = true;
    },
  },
  {
    code: "G92",
    does: "Names the present position, without moving",
    words: { X: "X, mm", Y: "Y, mm", Z: "Z, mm", E: "filament, mm" },
    example: "G92 E0",
    act(state, words) {
      // Without words everything is named 0.
      const all = words.count === 0;
      const named = (name: string) => {
        const value = words.value(name);
        return Number.isNaN(value) ? (all ? 0 : NaN) : value * state.unitMm;
      };
      const [x, y, z, e] = [named("X"), named("Y"), named("Z"), named("E")];
      if (!Number.isNaN(x)) {
        state.offsetX = state.x - x;
        state.knownX = true;
      }
      if (!Number.isNaN(y)) {
        state.offsetY = state.y - y;
        state.knownY = true;
      }
      if (!Number.isNaN(z)) {
        state.offsetZ = state.z - z;
        state.knownZ = true;
      }
      if (!Number.isNaN(e)) state.offsetE = state.e - e;
    },
  },
  { code: "M82", does: "E counts from zero", act: (state) => void (state.relativeE = false) },
  { code: "M83", does: "E counts from where it stands", act: (state) => void (state.relativeE = true) },
];
