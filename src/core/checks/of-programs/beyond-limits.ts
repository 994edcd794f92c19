import { Finding, TrialParts } from "../../findings/finding";
import { SettingKey, settingFor } from "../../settings";
import { plainNumber } from "../../units";
import { CheckedTrial, ProgramCheck } from "../check";

/** Nozzle or bed hotter than the printer allows, anywhere in the program. */
export const beyondLimits: ProgramCheck = {
  key: "beyond-limits",
  passes: null,
  run({ report: { facts }, printer, trial }) {
    const look = (key: SettingKey, hottest: typeof facts.hottestNozzle, limitC: number): Finding[] => {
      if (!hottest || hottest.value <= limitC) return [];
      const band = trial?.plan.bands.findIndex(({ settings }) => (settings[key] ?? 0) > limitC) ?? -1;
      return [
        {
          check: "beyond-limits",
          severity: "stop",
          where: band >= 0 ? `band ${band + 1}` : `line ${hottest.line}`,
          message: `The ${settingFor(key).short} is set to ${plainNumber(hottest.value, 0)} °C; ${printer.name} allows ${limitC} °C.`,
          ...(trial ? { mend: { label: `Lower to ${limitC} °C`, trial: lowered(trial, key, limitC) } } : {}),
        },
      ];
    };
    return [
      ...look("nozzleTemperature", facts.hottestNozzle, printer.highestNozzleC),
      ...look("bedTemperature", facts.hottestBed, printer.highestBedC),
    ];
  },
};

/** The parts of the trial with no value above the limit. */
function lowered({ plan, fixed }: CheckedTrial, key: SettingKey, limitC: number): Partial<TrialParts> {
  const held = (value: number) => Math.min(value, limitC);
  const bands = plan.bands.map((band) =>
    band.settings[key] === undefined
      ? band
      : { ...band, settings: { ...band.settings, [key]: held(band.settings[key]) } },
  );
  return {
    plan: { ...plan, bands },
    fixed: fixed[key] === undefined ? fixed : { ...fixed, [key]: held(fixed[key]) },
  };
}
