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
          message: `${plainNumber(value, 1)} % (S${fanDuty(value)}) is too little for the fan of ${printer.name} to spin, so S${turningDuty(value, printer)} is written instead.`,
        },
      ];
    });
  },
};
