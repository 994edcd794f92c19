import { dialects } from "../../machine/dialects";
import { deviationForJerkMm, jerkForDeviationMmS } from "../../motion/cornering";
import { SettingKey } from "../../settings";
import { Printer } from "../../shelf/printer";
import { plainNumber } from "../../units";
import { TrialKind } from "../kind";
import { needs } from "../need";
import { around, motionTrialMmS, stackBands, usualFixed } from "../rounds";

const FACTORS = [0.5, 0.75, 1, 1.5, 2, 3];

function keyFor(printer: Printer): SettingKey & ("jerk" | "junctionDeviation") {
  return dialects[printer.dialect].cornering;
}

export const cornering: TrialKind = {
  label: "Cornering",
  question: () => "How fast may corners be taken?",
  answers: "Sharp corners without blobs or ripples",
  explains:
    "Finds the jerk or junction deviation, whichever the firmware has, between blobs at the corners and ghosts behind them. Look at the teeth on the back and at the corners.",
  needs: [needs.acceleration],
  setting: keyFor,
  options: [],
  specimen: () => "turns",
  firstRound(request) {
    const { printer } = request;
    const key = keyFor(printer);
    const values =
      key === "jerk"
        ? around(printer.jerkMmS, FACTORS, 0.5, 0.5, 100)
        : around(printer.junctionDeviationMm, FACTORS, 0.001, 0.001, 1);
    const { plan, notes } = stackBands(request, { key, values, bandMm: 4, lowestBandMm: 4 });
    const printSpeed = motionTrialMmS(request);
    return { plan, fixed: usualFixed(request, ["jerk", "junctionDeviation"], { printSpeed }), notes };
  },
  reads: () => ({
    rule: "best",
    uses: [
      { key: "ghosting", weight: 1 },
      { key: "blobs", weight: 1 },
      { key: "corners", weight: 1 },
    ],
  }),
  range: (printer) =>
    keyFor(printer) === "jerk"
      ? { low: printer.jerkMmS * 0.5, high: printer.jerkMmS * 3 }
      : { low: printer.junctionDeviationMm * 0.5, high: printer.junctionDeviationMm * 3 },
  bandNote({ jerk, junctionDeviation }, { printAccelerationMmS2 }) {
    if (jerk !== undefined)
      return `like deviation ${plainNumber(deviationForJerkMm(jerk, printAccelerationMmS2), 4)} mm`;
    if (junctionDeviation === undefined) return null;
    return `like jerk ${plainNumber(jerkForDeviationMmS(junctionDeviation, printAccelerationMmS2), 1)} mm/s`;
  },
};
