import { dialects } from "../../machine/dialects";
import { FilamentPath, pathOf } from "../../shelf/five-questions";
import { plainNumber } from "../../units";
import { RoundRequest, TrialKind } from "../kind";
import { needs } from "../need";
import { LONGEST_BACK_MM } from "../round-ends";
import { borne, fanFor, Fitted, stackBands, steps, usualFixed } from "../rounds";

/** Lengths worth trying on each path: far back on a short one draws melt into the cold part and jams (common practice, no source). */
const LENGTHS_MM: Record<FilamentPath, number[]> = {
  short: [0.2, 0.4, 0.6, 0.8, 1, 1.5, 2, 2.5, LONGEST_BACK_MM.short],
  long: [0.5, 1, 2, 3, 4, 5, 6, 7, LONGEST_BACK_MM.long],
};

/** The lengths for a printer's path, and what is said of it. */
export function lengthsFor(request: RoundRequest): Fitted {
  const { printer } = request;
  const path = pathOf(printer);
  const note =
    path === "short"
      ? `The drive of ${printer.name} sits near the nozzle (it draws back ${plainNumber(printer.retractionMm)} mm): nothing above 3 mm is tried.`
      : null;
  const { values, notes } = borne(request, "retractionLength", LENGTHS_MM[path]);
  return { values, notes: [...(note ? [note] : []), ...notes] };
}

const SPEEDS_MM_S = steps(10, 60, 10);

/** Speeds the extruder can follow, and what is said of those it cannot. */
export function speedsFor(request: RoundRequest): Fitted {
  const { printer } = request;
  const soft = borne(request, "retractionSpeed", SPEEDS_MM_S);
  const values = soft.values.filter((value) => value <= printer.highestFeedEMmS);
  if (values.length === soft.values.length) return { values, notes: soft.notes };
  const note = `The extruder of ${printer.name} reaches ${plainNumber(printer.highestFeedEMmS)} mm/s: faster bands are left out.`;
  return { values: values.length > 0 ? values : [printer.highestFeedEMmS], notes: [...soft.notes, note] };
}

/** Full air hides strings, so a retraction test runs at about half fan (common practice, no source). */
export function halfFan(request: RoundRequest): { fan: number; notes: string[] } {
  const { printer, spool, kept, assumed } = request;
  const whole = kept.fan ?? spool.fanPercent;
  const half = whole / 2;
  if (whole <= 0) return { fan: 0, notes: [] };
  if (dialects[printer.dialect].fanHasDuty) {
    const from =
      assumed?.fan !== undefined
        ? "earlier spools wanted"
        : kept.fan === undefined
          ? "the spool wants"
          : "the pair keeps";
    const said = `${plainNumber(Math.round(half))} %, half of the ${plainNumber(whole)} % that ${from}`;
    return { fan: Math.round(half), notes: [`The fan runs at ${said}: full cooling hides stringing.`] };
  }
  return {
    fan: fanFor(printer, half),
    notes: [`The fan of ${printer.name} can't run at half speed. It stays off, because cooling hides stringing.`],
  };
}

export const retraction: TrialKind = {
  label: "Retraction",
  question: (spool) => `How much retraction does ${spool.colourName || spool.name} need?`,
  answers: "The shortest pull that leaves no strings",
  explains:
    "Finds the shortest retraction, or the best speed for it, that leaves no strings. Look for hairs between the posts, across 15, 20 and 25 mm of air, and for blobs or gaps where each post begins.",
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
    const lengths = lengthsFor(request);
    const values = bySpeed ? speeds.values : lengths.values;
    const { plan, notes } = stackBands(request, { key, values, bandMm: 3.6, lowestBandMm: 2 });
    const fixed = usualFixed(request, [key], {
      fan: air.fan,
      ...(bySpeed
        ? { retractionLength: kept.retractionLength ?? Math.min(printer.retractionMm, lengths.values.at(-1)!) }
        : { retractionSpeed: kept.retractionSpeed ?? Math.min(printer.retractionMmS, speeds.values.at(-1)!) }),
    });
    return { plan, fixed, notes: [...notes, ...air.notes, ...(bySpeed ? speeds.notes : lengths.notes)] };
  },
  reads: () => ({
    rule: "least",
    uses: [
      { key: "strings", weight: 1, must: true },
      { key: "blobs", weight: 0.5 },
      { key: "gaps", weight: 0.5 },
    ],
  }),
  range: (printer) => {
    const lengths = LENGTHS_MM[pathOf(printer)];
    return { low: lengths[0], high: lengths[lengths.length - 1] };
  },
};
