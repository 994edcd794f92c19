import { plainNumber } from "../../units";
import { Check } from "../check";

/** A bottom band that is not the hottest: it jams or does not stick. Common practice, no source. */
export const coldAtBottom: Check = {
  key: "cold-at-bottom",
  passes: null,
  run({ trial }) {
    if (!trial) return [];
    const values = trial.plan.bands.map(({ settings }) => settings.nozzleTemperature);
    const known = values.filter((value) => value !== undefined);
    if (known.length < 2 || values[0] === undefined || values[0] >= Math.max(...known)) return [];
    const sorted = [...trial.plan.bands].sort(
      (a, b) => (b.settings.nozzleTemperature ?? 0) - (a.settings.nozzleTemperature ?? 0),
    );
    return [
      {
        check: "cold-at-bottom",
        severity: "warn",
        where: "band 1",
        message: `The bottom band is ${plainNumber(values[0], 0)} °C, but ${plainNumber(Math.max(...known), 0)} °C comes later. Cold at the bottom jams or does not stick.`,
        mend: { label: "Hottest at the bottom", trial: { plan: { ...trial.plan, bands: sorted } } },
      },
    ];
  },
};
