import { TrialKind } from "../kind";
import { needs } from "../need";
import { stackBands, steps, usualFixed } from "../rounds";

export const flow: TrialKind = {
  label: "Flow",
  question: (spool) => `Does ${spool.colourName || spool.name} come out as wide as it should?`,
  answers: "Walls exactly as thick as they should be",
  explains:
    "Finds the flow at which a single wall is as thick as it was asked for. Measure the four faces of each band with a calliper, and look for gaps or ridges on the steps beside the box: each is the top of one band.",
  needs: [needs.steps, needs.temperature],
  setting: () => "flowFactor",
  options: [],
  specimen: () => "one-wall-box",
  firstRound(request) {
    const { plan, notes } = stackBands(request, {
      key: "flowFactor",
      values: steps(90, 110, 5),
      bandMm: 4.8,
      lowestBandMm: 3,
    });
    return { plan, fixed: usualFixed(request, ["flowFactor"]), notes };
  },
  reads: () => ({
    rule: "nominal",
    uses: [
      { key: "top", weight: 1 },
      { key: "surface", weight: 1 },
      { key: "gaps", weight: 1 },
    ],
    measure: { key: "wall", tells: "width", label: "Thickness of the wall", usualCount: 4 },
  }),
  range: () => ({ low: 90, high: 110 }),
};
