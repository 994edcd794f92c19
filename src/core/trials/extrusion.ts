import { plainNumber } from "../units";
import { TrialKind } from "./kind";
import { numberOption } from "../options/option";
import { usualFixed } from "./rounds";

export const extrusion: TrialKind = {
  label: "Extrusion",
  question: () => "Does the extruder feed what it is told?",
  explains:
    "Feeds a length without moving, then lays single tracks and a one-wall ring of known size. Mark the filament before you start and measure what was drawn in; then measure the width of the tracks and the wall of the ring.",
  needs: [],
  setting: () => "flowFactor",
  options: [
    { key: "feed", label: "Feed without motion first", kind: "switch", usual: true },
    { key: "feedMm", label: "Feed", kind: "number", unit: "mm", low: 1, high: 300, step: 10, decimals: 1, usual: 100 },
    {
      key: "feedMmMin",
      label: "at",
      kind: "number",
      unit: "mm/min",
      low: 10,
      high: 600,
      step: 10,
      decimals: 0,
      usual: 100,
    },
    { key: "tracks", label: "Tracks", kind: "number", unit: "", low: 0, high: 12, step: 1, decimals: 0, usual: 6 },
    {
      key: "narrowMm",
      label: "from width",
      kind: "number",
      unit: "mm",
      low: 0.1,
      high: 4,
      step: 0.05,
      decimals: 2,
      usual: ({ nozzleMm }) => nozzleMm,
    },
    {
      key: "wideMm",
      label: "to width",
      kind: "number",
      unit: "mm",
      low: 0.1,
      high: 4,
      step: 0.05,
      decimals: 2,
      usual: ({ nozzleMm }) => Math.round(nozzleMm * 200) / 100,
    },
    {
      key: "ringMm",
      label: "Ring across",
      kind: "number",
      unit: "mm",
      low: 0,
      high: 100,
      step: 5,
      decimals: 0,
      usual: 30,
    },
  ],
  specimen: () => "tracks-and-ring",
  firstRound(request) {
    const fixed = usualFixed(request, ["flowFactor"]);
    return {
      plan: { baseHeightMm: 0, bands: [{ heightMm: 6, settings: { flowFactor: 100 } }] },
      fixed,
      notes: [],
    };
  },
  range: () => ({ low: 90, high: 110 }),
  process: (usual) => ({ ...usual, brimRings: 0 }),
  linesBefore(options, printer) {
    if (options.feed !== true) return [];
    const feedMm = plainNumber(numberOption(options, "feedMm"), 1);
    const speed = Math.round(numberOption(options, "feedMmMin"));
    return [
      `; feed ${feedMm} mm without motion: mark the filament before the start, measure what is left`,
      `G0 Z${plainNumber(Math.min(50, printer.buildHeightMm))} F600`,
      `G1 E${feedMm} F${speed}`,
      "G4 S3",
    ];
  },
};
