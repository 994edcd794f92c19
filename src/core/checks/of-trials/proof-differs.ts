import { comparePlan } from "../../heightplan/proof";
import { settingFor } from "../../settings";
import { plainNumber } from "../../units";
import { Check } from "../check";

/** Layers in which the finished text does not command what the plan says. */
export const proofDiffers: Check = {
  key: "proof-differs",
  passes: "Every layer commands what the plan says.",
  run({ report, byLayer, planned, printer, trial, refusals }) {
    // What cannot be said has a finding of its own.
    const refused = new Set(refusals.map(({ key }) => key));
    const mismatches = comparePlan(report.layers, byLayer, planned, printer).filter(({ key }) => !refused.has(key));
    if (mismatches.length === 0) return [];
    const { key, layer, zMm, planned: wanted, commanded } = mismatches[0];
    const { label, unit, decimals } = settingFor(key);
    const says = Number.isNaN(commanded) ? "nothing" : `${plainNumber(commanded, decimals)} ${unit}`;
    return [
      {
        check: "proof-differs",
        severity: trial ? "stop" : "warn",
        where: `layer ${layer + 1} at ${plainNumber(zMm)} mm`,
        message: `${label} should be ${plainNumber(wanted, decimals)} ${unit}, but the file commands ${says}${mismatches.length > 1 ? `; ${mismatches.length} layers differ` : ""}.`,
        ...(trial
          ? {}
          : {
              mend: {
                label: "Take the file's own changes out",
                edit: { kind: "lift-out" as const, what: "foreign" as const, settings: [key] },
              },
            }),
      },
    ];
  },
};
