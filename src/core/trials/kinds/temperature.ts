import { plainNumber } from "../../units";
import { TrialKind } from "../kind";
import { needs } from "../need";
import { overAirOption } from "../over-air-fan";
import { stackBands, usualFixed } from "../rounds";

const STEP_C = 5;
/** The nozzle settles within a layer or two of a 5 °C step: the rest is for looking. It comes out as whole layers. */
const BAND_MM = 4.6;
const MOST_FIRST_BANDS = 16;

/** Label's range in 5 °C steps, both ends included, hottest first: a cold bottom band jams or does not stick. */
function labelValues(lowC: number, highC: number): number[] {
  const values: number[] = [];
  const step = Math.max(STEP_C, Math.ceil((highC - lowC) / (MOST_FIRST_BANDS - 1) / STEP_C) * STEP_C);
  for (let value = highC; value > lowC; value -= step) values.push(value);
  values.push(lowC);
  return values;
}

export const temperature: TrialKind = {
  label: "Nozzle temperature",
  question: (spool) => `How hot does ${spool.colourName || spool.name} want to be?`,
  answers: "Hot enough to bond, cool enough not to string",
  explains:
    "Finds the temperature at which this spool bonds well without stringing. Look for clean bridges, sharp overhangs, no strings between the uprights, and a pin that does not snap when pressed.",
  needs: [needs.steps],
  setting: () => "nozzleTemperature",
  options: [overAirOption],
  specimen: () => "arcade",
  firstRound(request) {
    const { printer, spool } = request;
    const high = Math.min(spool.labelMaxC, printer.highestNozzleC);
    const low = Math.min(spool.labelMinC, high);
    const stack = { key: "nozzleTemperature" as const, bandMm: BAND_MM, lowestBandMm: 4 };
    const { plan, notes } = stackBands(request, { ...stack, values: labelValues(low, high) });
    if (high - low < 2 * STEP_C) {
      const range = high - low < 1 ? `${plainNumber(high)} °C only` : `${plainNumber(low)} to ${plainNumber(high)} °C`;
      notes.push(
        `The label says ${range}: that leaves little to compare. Add bands around it, as far as you trust the label.`,
      );
    }
    return { plan, fixed: usualFixed(request, ["nozzleTemperature"]), notes };
  },
  reads: () => ({
    rule: "best",
    uses: [
      { key: "strings", weight: 1 },
      { key: "bridge", weight: 1 },
      { key: "overhang", weight: 1 },
      { key: "surface", weight: 1 },
      { key: "bond", weight: 2 },
    ],
  }),
  range: (_, spool) => ({ low: spool.labelMinC, high: spool.labelMaxC }),
};
