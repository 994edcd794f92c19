import { beadWidthFor, fastestBeadMmS, usualLayerMm } from "../../printing/process";
import { Printer } from "../../shelf/printer";
import { TrialKind } from "../kind";
import { needs } from "../need";
import { stackBands, steps, usualFixed } from "../rounds";

/** A long way from gear to nozzle wants several times the advance of a short one (common practice, no source). */
const LONG_WAY_FROM_MM = 2.5;

function hasLongWay(printer: Printer): boolean {
  return printer.retractionMm >= LONG_WAY_FROM_MM;
}

/** The two speeds, as far as the hot end comes along: a starved stretch would look like a wrong advance. */
const SLOW_MM_S = 20;
const FAST_MM_S = 80;

function fastFor(printer: Printer): number {
  const mostMmS = fastestBeadMmS(printer, { widthMm: beadWidthFor(printer), heightMm: usualLayerMm(printer) });
  const stepMmS = mostMmS >= 30 ? 10 : 1;
  return Math.max(10, Math.min(FAST_MM_S, Math.floor(mostMmS / stepMmS) * stepMmS));
}

const mostFor = (printer: Printer) => (hasLongWay(printer) ? 1 : 0.12);

export const pressureAdvance: TrialKind = {
  label: "Pressure advance",
  question: (spool) => `What pressure advance does ${spool.colourName || spool.name} need?`,
  answers: "Lines that stay even when the speed changes",
  explains:
    "Finds the advance at which lines stay evenly wide when the speed changes. Look for the band or line without a thin spot behind fast-to-slow, without a bulge before it, and with square corners.",
  needs: [needs.acceleration, needs.cornering],
  setting: () => "pressureAdvance",
  options: [
    {
      key: "form",
      label: "Print",
      kind: "choice",
      choices: [
        { value: "lines", label: "flat lines" },
        { value: "tower", label: "a tower" },
      ],
      usual: "lines",
      remakes: true,
    },
    {
      key: "slowMmS",
      label: "Slow",
      kind: "number",
      unit: "mm/s",
      low: 5,
      high: 200,
      step: 5,
      decimals: 0,
      usual: (printer) => Math.min(SLOW_MM_S, Math.max(5, Math.floor(fastFor(printer) / 4))),
    },
    {
      key: "fastMmS",
      label: "Fast",
      kind: "number",
      unit: "mm/s",
      low: 10,
      high: 500,
      step: 10,
      decimals: 0,
      usual: fastFor,
    },
  ],
  specimen: ({ form }) => (form === "lines" ? "advance-lines" : "advance-tower"),
  firstRound(request) {
    const { printer, options, firstLayerHeightMm } = request;
    const fixed = usualFixed(request, ["pressureAdvance"]);
    if (options.form === "lines") {
      return {
        plan: {
          baseHeightMm: 0,
          bands: [{ heightMm: firstLayerHeightMm, settings: {} }],
          sideBySide: {
            setting: "pressureAdvance",
            values: steps(0, mostFor(printer), hasLongWay(printer) ? 0.1 : 0.01),
          },
        },
        fixed,
        notes: [],
      };
    }
    const stack = {
      key: "pressureAdvance" as const,
      values: steps(0, mostFor(printer), hasLongWay(printer) ? 0.1 : 0.02),
    };
    const { plan, notes } = stackBands(request, { ...stack, bandMm: 5, lowestBandMm: 2 });
    return { plan, fixed, notes };
  },
  // The speeds are the trial itself: no layer is slowed to cool. A brim would run the lines together.
  process: (usual, { form }) => ({
    ...usual,
    smallestLayerSeconds: 0,
    brimRings: form === "lines" ? 0 : usual.brimRings,
  }),
  reads: () => ({
    rule: "best",
    uses: [
      { key: "even", weight: 2 },
      { key: "corners", weight: 1 },
      { key: "blobs", weight: 1 },
    ],
  }),
  range: (printer) => ({ low: 0, high: mostFor(printer) }),
};
