import { variedKeys } from "../../heightplan/plan";
import { settingFor, SettingValues } from "../../settings";
import { plainNumber } from "../../units";
import { Finding } from "../../findings/finding";
import { Check } from "../check";

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
    const key = keys[0];
    const { unit, decimals } = settingFor(key);
    // One setting that differs enough is enough.
    const differ = (a: SettingValues, b: SettingValues) =>
      keys.some((one) => Math.abs((a[one] ?? 0) - (b[one] ?? 0)) >= settingFor(one).step * TELLING_SHARE);
    const pairs: string[] = [];
    let least = Infinity;
    for (let i = 1; i < bands.length; i++) {
      if (differ(bands[i].settings, bands[i - 1].settings)) continue;
      pairs.push(`${i} and ${i + 1}`);
      least = Math.min(least, Math.abs((bands[i].settings[key] ?? 0) - (bands[i - 1].settings[key] ?? 0)));
    }
    if (pairs.length === 0) return [];
    const finding: Finding = {
      check: "bands-alike",
      severity: "warn",
      where: `bands ${pairs.slice(0, 4).join(", ")}${pairs.length > 4 ? " …" : ""}`,
      message: `Neighbours differ by as little as ${plainNumber(least, decimals)} ${unit}: you will hardly see which is better.`,
    };
    // One band after another that is far enough from the last one kept.
    const kept = trial.plan.bands.slice(0, 1);
    for (const band of trial.plan.bands) if (differ(band.settings, kept[kept.length - 1].settings)) kept.push(band);
    if (kept.length >= 2)
      finding.mend = { label: "Leave the doubles out", trial: { plan: { ...trial.plan, bands: kept } } };
    return [finding];
  },
};
