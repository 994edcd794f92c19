import { plainNumber } from "../../units";
import { Check } from "../check";
import { sayBands } from "../say";

/** Temperatures outside what the spool's label says. */
export const outsideLabel: Check = {
  key: "outside-label",
  passes: null,
  run({ trial, spool }) {
    if (!trial || !spool) return [];
    const outside = (value: number | undefined) =>
      value !== undefined && (value < spool.labelMinC || value > spool.labelMaxC);
    const wrong = trial.plan.bands.flatMap(({ settings }, i) => (outside(settings.nozzleTemperature) ? [i] : []));
    if (wrong.length === 0) return [];
    const inside = trial.plan.bands.filter((_, i) => !wrong.includes(i));
    const values = wrong.map((i) => plainNumber(trial.plan.bands[i].settings.nozzleTemperature ?? 0, 0));
    return [
      {
        check: "outside-label",
        severity: "warn",
        where: sayBands(wrong.map((i) => i + 1)),
        message: `${values.slice(0, 6).join(", ")}${values.length > 6 ? " …" : ""} °C is outside the label's ${spool.labelMinC}–${spool.labelMaxC} °C.`,
        ...(inside.length > 0
          ? { mend: { label: "Leave those bands out", trial: { plan: { ...trial.plan, bands: inside } } } }
          : {}),
      },
    ];
  },
};
