import { valueId } from "../firmware/values/value";
import { dialects } from "../machine/dialects";
import { refuse, succeed } from "../result";
import { plainNumber } from "../units";
import { nozzleInput } from "./inputs";
import { mistyped, toolOf, Tune } from "./tune";

/** Marked above the extruder, and fed, mm. Common practice, no source. */
const MARK_MM = 120;
const FEED_MM = 100;
const FEED_MM_MIN = 100;
/** Common practice, no source. */
const GOOD_WITHIN_MM = 1;

export const extruderSteps: Tune = {
  title: "Extruder steps",
  draws: "filament",
  question: "Does the extruder move the length it should?",
  needs: ["Filament loaded, nozzle clean", "A ruler and a pen", "About five minutes"],
  inputs: [nozzleInput],
  perTool: true,
  uses: (request) => [valueId("extruderSteps", toolOf(request))],
  refuses: ({ dialect }) =>
    dialects[dialect].stepsByLine
      ? null
      : "This printer's dialect cannot set steps by a line: they are part of its configuration. The sum below still holds; write the new value there.",
  heat: ({ inputs }) => ({ nozzleC: inputs.nozzleC }),
  before: `Mark the filament ${MARK_MM} mm above the place where it enters the extruder.`,
  // Factors left by a print would feed another length, or at another speed.
  act: () => ["M220 S100", "M221 S100", "M83", "G92 E0", `G1 E${FEED_MM} F${FEED_MM_MIN}`, "G4 P1"],
  after: "Measure how far the mark still is from where the filament enters.",
  readings: () => [{ key: "leftMm", label: "Left to the mark", unit: "mm", low: 0, high: MARK_MM, decimals: 1 }],
  /** new = old · 100 / moved, moved = 120 − left. Common practice, no source. */
  sum(request, { leftMm }) {
    const id = valueId("extruderSteps", toolOf(request));
    const old = request.values[id];
    if (!(old > 0))
      return refuse("The printer's current steps are unknown: read them from the printer or type them.", id);
    const moved = MARK_MM - leftMm;
    if (moved <= 1)
      return refuse("The filament hardly moved: is it gripped? Nothing can be computed from that.", "leftMm");
    const next = (old * FEED_MM) / moved;
    const within = Math.abs(moved - FEED_MM) <= GOOD_WITHIN_MM;
    const fed = moved < FEED_MM ? "too little" : "too much";
    return succeed({
      sum: [
        `moved = ${MARK_MM} − ${plainNumber(leftMm, 1)} = ${plainNumber(moved, 1)} mm`,
        `new = ${plainNumber(old, 2)} · ${FEED_MM} / ${plainNumber(moved, 1)} = ${plainNumber(next, 2)} steps/mm`,
      ],
      measured: moved,
      unit: "mm",
      within,
      verdict: within
        ? `It feeds ${plainNumber(moved, 1)} mm for ${FEED_MM}: within ${GOOD_WITHIN_MM} mm, leave it.`
        : `It feeds ${fed}: ${plainNumber(moved, 1)} mm for ${FEED_MM}.`,
      ask: mistyped("Extruder steps", old, next),
      firmware: { [id]: Math.round(next * 100) / 100 },
    });
  },
  // The same grip feeds the same length: a larger difference is a slipping gear.
  agreeWithin: 1,
  fromRuler: ({ filamentLeftMm }) => ({ leftMm: filamentLeftMm }),
  asFile: true,
};
