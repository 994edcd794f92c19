import { roundTo } from "../../units";
import { TrialKind } from "../kind";
import { needs } from "../need";
import { numberOption } from "../../options/option";
import { halfFan, lengthsFor, speedsFor } from "./retraction";
import { stackBands, usualFixed } from "../rounds";

export const retractionMatrix: TrialKind = {
  label: "Retraction matrix",
  question: (spool) => `Which length and speed of retraction suit ${spool.colourName || spool.name}?`,
  answers: "Length and speed of the pull, in one print",
  explains:
    "Tries every length with every speed in one print: each post of the fence has its own length, each band its own speed. Look for the post and the height where the strings to the next post end.",
  needs: [needs.temperature, needs.fan],
  setting: () => "retractionSpeed",
  options: [
    {
      key: "layersPerStep",
      label: "Layers a speed",
      kind: "number",
      unit: "layers",
      low: 1,
      high: 200,
      step: 1,
      decimals: 0,
      usual: 14,
      remakes: true,
    },
  ],
  needsOwnPiece: true,
  specimen: () => "fence",
  firstRound(request) {
    const { options, layerHeightMm } = request;
    const speeds = speedsFor(request);
    const air = halfFan(request);
    const lengths = lengthsFor(request);
    const bandMm = roundTo(numberOption(options, "layersPerStep") * layerHeightMm, 4);
    const stack = { key: "retractionSpeed" as const, values: speeds.values };
    const { plan, notes } = stackBands(request, { ...stack, bandMm, lowestBandMm: Math.min(bandMm, 1) });
    return {
      plan: { ...plan, sideBySide: { setting: "retractionLength", values: lengths.values } },
      fixed: usualFixed(request, ["retractionSpeed", "retractionLength"], { fan: air.fan }),
      notes: [...notes, ...air.notes, ...speeds.notes, ...lengths.notes],
    };
  },
  reads: () => ({
    rule: "field",
    uses: [
      { key: "strings", weight: 2, must: true },
      { key: "blobs", weight: 0.5 },
      { key: "gaps", weight: 0.5 },
    ],
  }),
  range: () => ({ low: 10, high: 60 }),
};
