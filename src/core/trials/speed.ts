import { beadAreaMm2 } from "../material/bead";
import { beadWidthFor } from "../printing/process";
import { plainNumber } from "../units";
import { TrialKind } from "./kind";
import { needs } from "./need";
import { stackBands, usualFixed } from "./rounds";

const LOWEST_MM_S = 30;
const BANDS = 6;
const PAST_LIMIT = 1.2;
/** Straight side of the long frame on a usual bed, mm. */
const LONG_SIDE_MM = 100;

/** The highest speed that is held for half of a side: speeding up and slowing down take v²/a together (uniform acceleration). */
function longestHeldMmS(accelerationMmS2: number, sideMm: number): number {
  return Math.sqrt(accelerationMmS2 * sideMm * 0.5);
}

export const speed: TrialKind = {
  label: "Speed",
  question: (spool) => `How fast may ${spool.colourName || spool.name} be laid?`,
  explains:
    "Finds the print speed at which walls and corners are still clean and the hot end still keeps up. Look for dull or thin stretches on the long walls, rounded corners, and the band where the flow passes the limit.",
  needs: [needs.flow],
  setting: () => "printSpeed",
  options: [],
  specimen: () => "long-frame",
  firstRound(request) {
    const { printer } = request;
    // Past the hot end's own limit, so that there is a band that shows it; not past what the axes reach on the long side.
    const limitMmS = printer.highestFlowMm3S / beadAreaMm2(beadWidthFor(printer), request.layerHeightMm);
    const held = longestHeldMmS(printer.printAccelerationMmS2, LONG_SIDE_MM);
    const most = Math.max(LOWEST_MM_S * 2, Math.min(limitMmS * PAST_LIMIT, held));
    const step = Math.max(5, Math.round((most - LOWEST_MM_S) / (BANDS - 1) / 5) * 5);
    const wide = Array.from({ length: BANDS }, (_, i) => LOWEST_MM_S + i * step);
    const values = wide.filter((value) => value <= printer.highestFeedXyMmS);
    const { plan, notes } = stackBands(request, {
      key: "printSpeed",
      values: values.length > 0 ? values : [printer.highestFeedXyMmS],
      bandMm: 4,
      lowestBandMm: 2,
    });
    if (values.length < wide.length) {
      notes.push(`${printer.name} reaches ${plainNumber(printer.highestFeedXyMmS)} mm/s: faster bands are left out.`);
    }
    return { plan, fixed: usualFixed(request, ["printSpeed"]), notes };
  },
  range: ({ printAccelerationMmS2, highestFeedXyMmS }) => ({
    low: LOWEST_MM_S,
    high: Math.min(
      highestFeedXyMmS,
      Math.max(120, Math.round(longestHeldMmS(printAccelerationMmS2, LONG_SIDE_MM) / 10) * 10),
    ),
  }),
  bandNote({ printSpeed }, printer, layerHeightMm) {
    if (printSpeed === undefined) return null;
    const flowMm3S = printSpeed * beadAreaMm2(beadWidthFor(printer), layerHeightMm);
    return `${plainNumber(flowMm3S, 1)} mm³/s`;
  },
};
