import { mostOf, ruleOf } from "../../material/rules";
import { beadAreaMm2 } from "../../material/bead";
import { beadWidthFor, usualLayerMm } from "../../printing/process";
import { plainNumber } from "../../units";
import type { Printer } from "../../shelf/printer";
import type { Spool } from "../../shelf/spool";
import { longSideMm } from "../../specimens/long-side";
import { TrialKind } from "../kind";
import { needs } from "../need";
import { roomOn } from "../room";
import { stackBands, usualFixed } from "../rounds";

const LOWEST_MM_S = 30;
const BANDS = 6;
const PAST_LIMIT = 1.2;
const HALF = 0.5;
/** A round spans at least so many times its lowest speed. */
const LEAST_SPAN = 2;
const MOST_ROUNDING = 0.12;

/**
 * The highest speed worth trying, mm/s: past the hot end's own limit, so that there is a band that shows it, but held for half of the long
 * side at least. Speeding up and slowing down take v²/a together (uniform acceleration).
 */
function mostMmS(printer: Printer, spool: Spool, layerHeightMm: number): number {
  const limitMmS = printer.highestFlowMm3S / beadAreaMm2(beadWidthFor(printer), layerHeightMm);
  const heldMmS = Math.sqrt(printer.printAccelerationMmS2 * longSideMm(roomOn(printer)) * 0.5);
  const borneMmS = mostOf(spool.material, "printSpeed");
  return Math.min(limitMmS * PAST_LIMIT, Math.max(LEAST_SPAN * lowestMmS(limitMmS), heldMmS), borneMmS * PAST_LIMIT);
}

/** The lowest speed worth trying, mm/s: half of what the hot end melts, where that is less than anybody prints. */
const lowestMmS = (limitMmS: number) => Math.min(LOWEST_MM_S, Math.max(5, Math.round(limitMmS * HALF)));

/** A step that reads well, where that does not carry the last band far from what is wanted. */
function evenStep(mmS: number): number {
  if (mmS < 5) return Math.max(1, Math.round(mmS));
  const rounded = Math.round(mmS / 5) * 5;
  return Math.abs(rounded - mmS) > mmS * MOST_ROUNDING ? Math.round(mmS) : rounded;
}

/** The speeds to try, in even steps from the lowest; faster ones than the axes are left out. */
function speedsFor(printer: Printer, spool: Spool, layerHeightMm: number): { values: number[]; leftOut: number } {
  const most = mostMmS(printer, spool, layerHeightMm);
  // Where little is borne, the lowest is half of it.
  const lowest = Math.min(lowestMmS(most / PAST_LIMIT), Math.max(5, Math.round(most / 10) * 5));
  const stepMmS = evenStep((most - lowest) / (BANDS - 1));
  const borneMmS = mostOf(spool.material, "printSpeed") * PAST_LIMIT;
  const wide = Array.from({ length: BANDS }, (_, i) => lowest + i * stepMmS).filter((value) => value <= borneMmS);
  const values = wide.filter((value) => value <= printer.highestFeedXyMmS);
  return { values: values.length > 0 ? values : [printer.highestFeedXyMmS], leftOut: wide.length - values.length };
}

/** Share of a straight side that is laid at full speed: speeding up and slowing down take v²/a of it together. */
export function fullSpeedShare(speedMmS: number, printer: Printer): number {
  return Math.max(0, 1 - speedMmS ** 2 / (printer.printAccelerationMmS2 * longSideMm(roomOn(printer))));
}

export const speed: TrialKind = {
  label: "Speed",
  question: (spool) => `How fast may ${spool.colourName || spool.name} be laid?`,
  answers: "How fast before corners and flow suffer",
  explains:
    "Finds the print speed at which walls and corners are still clean and the hot end still keeps up. Look for dull or thin stretches on the long walls, rounded corners, and the band where the flow passes the limit.",
  needs: [needs.flow],
  setting: () => "printSpeed",
  options: [],
  specimen: () => "long-frame",
  firstRound(request) {
    const { printer, spool } = request;
    const { values, leftOut } = speedsFor(printer, spool, request.layerHeightMm);
    const { plan, notes } = stackBands(request, {
      key: "printSpeed",
      values,
      bandMm: 3.6,
      lowestBandMm: 2,
    });
    if (leftOut > 0) {
      notes.push(`${printer.name} reaches ${plainNumber(printer.highestFeedXyMmS)} mm/s: faster bands are left out.`);
    }
    const rule = ruleOf(spool.material, "printSpeed");
    if (rule) {
      notes.push(
        `${spool.material} ${rule.because}: bands end a fifth past ${plainNumber(rule.most)} mm/s, so that one shows it.`,
      );
    }
    return { plan, fixed: usualFixed(request, ["printSpeed"]), notes };
  },
  reads: () => ({
    rule: "most",
    uses: [
      { key: "surface", weight: 1, must: true },
      { key: "corners", weight: 1, must: true },
      { key: "gaps", weight: 1, must: true },
    ],
  }),
  range: (printer, spool) => {
    const { values } = speedsFor(printer, spool, usualLayerMm(printer));
    return { low: values[0], high: Math.max(values[values.length - 1], values[0] + 1) };
  },
  bandNote({ printSpeed }, printer, layerHeightMm) {
    if (printSpeed === undefined) return null;
    const flowMm3S = printSpeed * beadAreaMm2(beadWidthFor(printer), layerHeightMm);
    const share = fullSpeedShare(printSpeed, printer);
    return `${plainNumber(flowMm3S, 1)} mm³/s, ${share > 0 ? `on ${Math.round(share * 100)} % of a side` : "never reached"}`;
  },
};
