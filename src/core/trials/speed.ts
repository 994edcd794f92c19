import { beadAreaMm2 } from "../material/bead";
import { beadWidthFor } from "../printing/process";
import { plainNumber } from "../units";
import { TrialKind } from "./kind";
import { needs } from "./need";
import { stackBands, steps, usualFixed } from "./rounds";

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
    const wide = steps(30, 120, 15);
    const values = wide.filter((value) => value <= printer.highestFeedXyMmS);
    const { plan, notes } = stackBands(request, {
      key: "printSpeed",
      values: values.length > 0 ? values : [printer.highestFeedXyMmS],
      baseMm: 1,
      bandMm: 6,
      lowestBandMm: 2,
    });
    if (values.length < wide.length) {
      notes.push(`${printer.name} reaches ${plainNumber(printer.highestFeedXyMmS)} mm/s: faster bands are left out.`);
    }
    return { plan, fixed: usualFixed(request, ["printSpeed"]), notes };
  },
  range: () => ({ low: 30, high: 120 }),
  bandNote({ printSpeed }, printer, layerHeightMm) {
    if (printSpeed === undefined) return null;
    const flowMm3S = printSpeed * beadAreaMm2(beadWidthFor(printer), layerHeightMm);
    return `${plainNumber(flowMm3S, 1)} mm³/s`;
  },
};
