import { plainNumber } from "../../units";
import { Check } from "../check";

/** First layers that are not printed at the first band's temperature. */
export const startTemperature: Check = {
  key: "start-temperature",
  passes: null,
  run({ trial, planned, byLayer }) {
    const first = planned.nozzleTemperature?.find((value) => !Number.isNaN(value));
    const started = byLayer.nozzleTemperature[0];
    if (!trial || first === undefined || Math.abs(started - first) < 0.01) return [];
    return [
      {
        check: "start-temperature",
        severity: "warn",
        where: "layer 1",
        message: Number.isNaN(started)
          ? `The start lines never set the nozzle; the first band wants ${plainNumber(first, 0)} °C. Write {{nozzleFirst}} into them.`
          : `The print starts at ${plainNumber(started, 0)} °C, the first band wants ${plainNumber(first, 0)} °C. Write {{nozzleFirst}} into the start lines.`,
        mend: { label: "Look at the printer's start lines", open: "printer" },
      },
    ];
  },
};
