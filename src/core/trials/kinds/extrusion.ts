import { bedCentre, bedDepthMm } from "../../shelf/printer";
import { plainNumber } from "../../units";
import { trackWidthsMm } from "../../specimens/track-widths";
import { TrialKind } from "../kind";
import { numberOption } from "../../options/option";
import { REST_MM } from "../prime";
import { usualFixed } from "../rounds";

/** The mark lies further off than what is fed, so that something is left to measure. */
const MARK_BEYOND_MM = 20;
const FEED_HEIGHT_MM = 50;
const EDGE_MM = 8;

export const extrusion: TrialKind = {
  label: "Extrusion",
  question: () => "Does the extruder feed what it should?",
  answers: "How much filament the extruder really feeds",
  explains:
    "Lays single tracks and a one-wall ring of known size, then stops, lets you mark the filament, and feeds a length without moving. Measure how much was drawn in, the width of the tracks and the wall of the ring.",
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
  reads: () => ({
    rule: "nominal",
    uses: [
      { key: "blobs", weight: 1 },
      { key: "gaps", weight: 1 },
    ],
    measure: { key: "track", tells: "width", label: "Width of the track", usualCount: 3 },
  }),
  tracksMm: (options) =>
    trackWidthsMm(
      Math.round(numberOption(options, "tracks")),
      numberOption(options, "narrowMm"),
      numberOption(options, "wideMm"),
    ),
  range: () => ({ low: 90, high: 110 }),
  process: (usual) => ({ ...usual, brimRings: 0 }),
  // The feed is an act of its own: behind the print, at the bed's edge, and somebody says when to go on.
  after(options, printer) {
    if (options.feed !== true) return null;
    const filamentMm = numberOption(options, "feedMm");
    const feedMmMin = Math.round(numberOption(options, "feedMmMin"));
    const feedMm = plainNumber(filamentMm, 1);
    const markMm = plainNumber(filamentMm + MARK_BEYOND_MM, 1);
    const centre = bedCentre(printer);
    const edgeY = centre.y - bedDepthMm(printer) / 2 + EDGE_MM;
    const lines = [
      `; feed ${feedMm} mm without motion: mark the filament ${markMm} mm above the extruder, go on, measure what is left to the mark`,
      `G1 E${REST_MM} F300`,
      `G0 Z${plainNumber(Math.min(FEED_HEIGHT_MM, printer.buildHeightMm))} F600`,
      `G0 X${plainNumber(centre.x)} Y${plainNumber(edgeY)} F3000`,
      `M117 Mark at ${markMm} mm, then go on`,
      "M0",
      `G1 E${feedMm} F${feedMmMin}`,
      `M117 ${feedMm} mm fed: measure to the mark`,
      "M0",
      `G1 E-${REST_MM} F300`,
    ];
    return { lines, filamentMm, seconds: (filamentMm / feedMmMin) * 60 };
  },
};
