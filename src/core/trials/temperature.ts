import { dialects } from "../firmware/dialects";
import { Band } from "../heightplan/plan";
import { arcade } from "../specimens/arcade";
import { TrialKind } from "./kind";

const STEP_C = 5;
const BAND_MM = 10;
const BASE_MM = 1.5;
const MOST_FIRST_BANDS = 16;

/** Label's range in 5 °C steps, both ends included, hottest first: a cold bottom band jams or does not stick. */
function bandsForLabel(lowC: number, highC: number, bandMm: number): Band[] {
  const values: number[] = [];
  const step = Math.max(STEP_C, Math.ceil((highC - lowC) / (MOST_FIRST_BANDS - 1) / STEP_C) * STEP_C);
  for (let value = highC; value > lowC; value -= step) values.push(value);
  values.push(lowC);
  return values.map((nozzleTemperature) => ({ heightMm: bandMm, settings: { nozzleTemperature } }));
}

export const temperature: TrialKind = {
  label: "Nozzle temperature",
  question: (spool) => `How hot does ${spool.colourName || spool.name} want to be?`,
  explains:
    "Finds the temperature at which this spool bonds well without stringing. Look for clean bridges, sharp overhangs, no strings between the uprights, and a cone that does not snap.",
  setting: "nozzleTemperature",
  specimen: arcade,
  firstRound(printer, spool) {
    const high = Math.min(spool.labelMaxC, printer.highestNozzleC);
    const low = Math.min(spool.labelMinC, high);
    const bands = bandsForLabel(low, high, BAND_MM);
    const room = printer.buildHeightMm - BASE_MM - 1;
    const bandMm = Math.min(BAND_MM, Math.floor((room / bands.length) * 10) / 10);
    const fan = dialects[printer.dialect].fanHasDuty ? spool.fanPercent : spool.fanPercent >= 50 ? 100 : 0;
    return {
      plan: { baseHeightMm: BASE_MM, bands: bands.map((band) => ({ ...band, heightMm: bandMm })) },
      fixed: { bedTemperature: Math.min(spool.bedC, printer.highestBedC), fan },
    };
  },
  range: (_, spool) => ({ low: spool.labelMinC, high: spool.labelMaxC }),
};
