import { variedKeys } from "../heightplan/plan";
import { settingFor } from "../settings";
import { plainNumber } from "../units";
import { Check, Finding } from "./finding";

/** Share of a setting's usual step below which neighbours cannot be told apart on the piece. Common practice, no source. */
const TELLING_SHARE = 0.6;

/** Neighbouring bands whose values differ too little to see. */
export const bandsAlike: Check = {
  key: "bands-alike",
  passes: null,
  run({ trial, bands }) {
    if (!trial || bands.length < 2) return [];
    const keys = variedKeys(bands);
    if (keys.length === 0) return [];
    const pairs: string[] = [];
    let least = Infinity;
    for (let i = 1; i < bands.length; i++) {
      const differs = keys.some((key) => {
        const difference = Math.abs((bands[i].settings[key] ?? 0) - (bands[i - 1].settings[key] ?? 0));
        least = Math.min(least, difference);
        return difference >= settingFor(key).step * TELLING_SHARE;
      });
      if (!differs) pairs.push(`${i} and ${i + 1}`);
    }
    if (pairs.length === 0) return [];
    const key = keys[0];
    const { unit, step, decimals } = settingFor(key);
    const finding: Finding = {
      check: "bands-alike",
      severity: "warn",
      where: `bands ${pairs.slice(0, 4).join(", ")}${pairs.length > 4 ? " …" : ""}`,
      message: `Neighbours differ by as little as ${plainNumber(least, decimals)} ${unit}: you will hardly see which is better.`,
    };
    // One value after another that is far enough from the last one kept.
    const kept = trial.plan.bands.slice(0, 1);
    for (const band of trial.plan.bands) {
      const last = kept[kept.length - 1].settings[key] ?? 0;
      if (Math.abs((band.settings[key] ?? 0) - last) >= step * TELLING_SHARE) kept.push(band);
    }
    if (kept.length >= 2)
      finding.mend = { label: "Leave the doubles out", trial: { plan: { ...trial.plan, bands: kept } } };
    return [finding];
  },
};
