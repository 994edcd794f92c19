import { fanDuty, turningDuty } from "../../settings/fan";
import { plainNumber } from "../../units";
import { Check } from "../check";

/** Fan duties too small for the fan to turn, which are raised. */
export const fanTooSlow: Check = {
  key: "fan-too-slow",
  passes: null,
  run({ bands, trial, printer }) {
    const values = [
      ...bands.map(({ settings, number }) => ({ value: settings.fan, where: `band ${number}` })),
      { value: trial?.fixed.fan, where: "whole piece" },
    ];
    return values.flatMap(({ value, where }) => {
      if (value === undefined || fanDuty(value) === turningDuty(value, printer)) return [];
      return [
        {
          check: "fan-too-slow",
          severity: "note" as const,
          where,
          message: `${plainNumber(value, 1)} % is duty ${fanDuty(value)}, at which the fan of ${printer.name} does not turn; it is written as ${turningDuty(value, printer)}.`,
        },
      ];
    });
  },
};
