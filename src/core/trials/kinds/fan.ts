import { dialects } from "../../machine/dialects";
import { turningDuty } from "../../settings/fan";
import { TrialKind } from "../kind";
import { needs } from "../need";
import { numberOption } from "../../options/option";
import { borne, stackBands, steps, usualFixed } from "../rounds";

export const fan: TrialKind = {
  label: "Fan",
  question: (spool) => `How much air does ${spool.colourName || spool.name} want?`,
  answers: "Fine detail without weak layers",
  explains:
    "Finds the fan duty between fine detail and strong layers. Look at the lips and the sharp nose for curl and droop, at the waist of the column for melting, and press the nose to see whether its layers hold.",
  needs: [needs.temperature],
  setting: () => "fan",
  options: [
    {
      key: "stepPercent",
      label: "Step",
      kind: "choice",
      choices: [
        { value: "5", label: "5 %" },
        { value: "10", label: "10 %" },
        { value: "20", label: "20 %" },
      ],
      usual: "20",
      remakes: true,
    },
  ],
  specimen: () => "lips",
  firstRound(request) {
    const { printer, options } = request;
    const hasDuty = dialects[printer.dialect].fanHasDuty;
    const air = borne(request, "fan", steps(0, 100, numberOption(options, "stepPercent")));
    const values = hasDuty ? air.values : [0, 100];
    const { plan, notes } = stackBands(request, { key: "fan", values, bandMm: 5, lowestBandMm: 5 });
    if (hasDuty) notes.push(...air.notes);
    if (!hasDuty) notes.push(`The fan of ${printer.name} is only off or on: two bands.`);
    return { plan, fixed: usualFixed(request, ["fan"]), notes };
  },
  reads: () => ({
    rule: "best",
    uses: [
      { key: "overhang", weight: 1.5 },
      { key: "corners", weight: 1 },
      { key: "bridge", weight: 0.5 },
      { key: "surface", weight: 0.5 },
      { key: "bond", weight: 2 },
    ],
  }),
  range: () => ({ low: 0, high: 100 }),
  bandNote: ({ fan: percent }, printer) =>
    percent === undefined || !dialects[printer.dialect].fanHasDuty
      ? null
      : `duty ${turningDuty(percent, printer)} of 255`,
};
