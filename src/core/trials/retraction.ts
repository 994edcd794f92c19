import { dialects } from "../machine/dialects";
import { plainNumber } from "../units";
import { RoundRequest, TrialKind } from "./kind";
import { needs } from "./need";
import { fanFor, stackBands, steps, usualFixed } from "./rounds";

export const WIDE_LENGTHS_MM = [0.5, 1, 2, 3, 4, 5, 6, 7, 8];
const SPEEDS_MM_S = steps(10, 60, 10);

/** Speeds the extruder can follow, and what is said of those it cannot. */
export function speedsFor({ printer }: RoundRequest): { values: number[]; notes: string[] } {
  const values = SPEEDS_MM_S.filter((value) => value <= printer.highestFeedEMmS);
  if (values.length === SPEEDS_MM_S.length) return { values, notes: [] };
  const note = `The extruder of ${printer.name} reaches ${plainNumber(printer.highestFeedEMmS)} mm/s: faster bands are left out.`;
  return { values: values.length > 0 ? values : [printer.highestFeedEMmS], notes: [note] };
}

/** Full air hides strings, so a retraction test runs at about half fan (common practice, no source). */
export function halfFan(request: RoundRequest): { fan: number; notes: string[] } {
  const { printer, spool, kept } = request;
  const whole = kept.fan ?? spool.fanPercent;
  const half = whole / 2;
  if (whole <= 0) return { fan: 0, notes: [] };
  if (dialects[printer.dialect].fanHasDuty) {
    const from = kept.fan === undefined ? "spool wants" : "pair keeps";
    const said = `${plainNumber(Math.round(half))} %, half of the ${plainNumber(whole)} % that the ${from}`;
    return { fan: Math.round(half), notes: [`The fan runs at ${said}: full air hides strings.`] };
  }
  return {
    fan: fanFor(printer, half),
    notes: [`The fan of ${printer.name} knows no half: it stays off, for air hides strings.`],
  };
}

export const retraction: TrialKind = {
  label: "Retraction",
  question: (spool) => `How far back does ${spool.colourName || spool.name} want to be drawn?`,
  explains:
    "Finds the shortest retraction, or the best speed for it, that leaves no strings. Look for hairs between the posts and for blobs or gaps where each post begins.",
  needs: [needs.temperature, needs.fan],
  setting: (_, options) => (options.vary === "speed" ? "retractionSpeed" : "retractionLength"),
  options: [
    {
      key: "vary",
      label: "Try",
      kind: "choice",
      choices: [
        { value: "length", label: "lengths" },
        { value: "speed", label: "speeds" },
      ],
      usual: "length",
      remakes: true,
    },
  ],
  specimen: () => "posts",
  firstRound(request) {
    const { printer, kept, options } = request;
    const bySpeed = options.vary === "speed";
    const speeds = speedsFor(request);
    const air = halfFan(request);
    const key = bySpeed ? "retractionSpeed" : "retractionLength";
    const values = bySpeed ? speeds.values : WIDE_LENGTHS_MM;
    const { plan, notes } = stackBands(request, { key, values, baseMm: 1, bandMm: 6, lowestBandMm: 2 });
    const fixed = usualFixed(request, [key], {
      fan: air.fan,
      ...(bySpeed
        ? { retractionLength: kept.retractionLength ?? printer.retractionMm }
        : { retractionSpeed: kept.retractionSpeed ?? printer.retractionMmS }),
    });
    return { plan, fixed, notes: [...notes, ...air.notes, ...(bySpeed ? speeds.notes : [])] };
  },
  range: () => ({ low: 0.5, high: 8 }),
};
