import { TrialKind } from "../kind";
import { needs } from "../need";
import { around, motionTrialMmS, stackBands, usualFixed } from "../rounds";

const FACTORS = [0.5, 0.75, 1, 1.5, 2, 3];

export const acceleration: TrialKind = {
  label: "Acceleration",
  question: () => "How hard may the printer speed up?",
  answers: "How hard before ripples show",
  explains:
    "Finds the printing acceleration at which ghosts beside letters stay faint. Hold the X and the Y face to the light and look for ripples behind each letter and corner; travel and retract are left alone.",
  needs: [needs.speed],
  setting: () => "acceleration",
  options: [],
  specimen: () => "turns",
  firstRound(request) {
    const { printer } = request;
    const { plan, notes } = stackBands(request, {
      key: "acceleration",
      values: around(printer.printAccelerationMmS2, FACTORS, 50, 50, 50_000),
      bandMm: 4,
      lowestBandMm: 4,
    });
    const printSpeed = motionTrialMmS(request);
    return { plan, fixed: usualFixed(request, ["acceleration"], { printSpeed }), notes };
  },
  reads: () => ({
    rule: "most",
    uses: [
      { key: "ghosting", weight: 1, must: true },
      { key: "corners", weight: 0.5 },
    ],
    measure: { key: "ripple", tells: "ripple", label: "From ripple to ripple", usualCount: 2 },
  }),
  range: (printer) => ({ low: printer.printAccelerationMmS2 * 0.5, high: printer.printAccelerationMmS2 * 3 }),
};
