import { EventKind } from "../gcode/moves";
import { SettingKey, settingFor } from "../settings";
import { plainNumber } from "../units";
import { Check, Finding } from "./finding";

/** Nozzle or bed hotter than the printer allows. */
export const beyondLimits: Check = {
  key: "beyond-limits",
  passes: null,
  run({ tables: { events }, printer, trial }) {
    const findings: Finding[] = [];
    const look = (key: SettingKey, name: string, kinds: EventKind[], limitC: number) => {
      let hottest = -1;
      let line = 0;
      for (let i = 0; i < events.count; i++) {
        if (kinds.includes(events.kind[i] as EventKind) && events.value[i] > hottest) {
          hottest = events.value[i];
          line = events.line[i] + 1;
        }
      }
      if (hottest <= limitC) return;
      const band = trial?.plan.bands.findIndex(({ settings }) => (settings[key] ?? 0) > limitC) ?? -1;
      const lowered = (value: number | undefined) => (value === undefined ? value : Math.min(value, limitC));
      findings.push({
        check: "beyond-limits",
        severity: "stop",
        where: band >= 0 ? `band ${band + 1}` : `line ${line}`,
        message: `The ${name} is set to ${plainNumber(hottest, 0)} °C; ${printer.name} allows ${limitC} °C.`,
        ...(trial
          ? {
              mend: {
                label: `Lower to ${limitC} °C`,
                trial: {
                  plan: {
                    ...trial.plan,
                    bands: trial.plan.bands.map((one) =>
                      one.settings[key] === undefined
                        ? one
                        : { ...one, settings: { ...one.settings, [key]: lowered(one.settings[key]) } },
                    ),
                  },
                  fixed:
                    trial.fixed[key] === undefined ? trial.fixed : { ...trial.fixed, [key]: lowered(trial.fixed[key]) },
                },
              },
            }
          : {}),
      });
    };
    look(
      "nozzleTemperature",
      settingFor("nozzleTemperature").short,
      [EventKind.nozzleTemperature, EventKind.nozzleTemperatureWait],
      printer.highestNozzleC,
    );
    look(
      "bedTemperature",
      settingFor("bedTemperature").short,
      [EventKind.bedTemperature, EventKind.bedTemperatureWait],
      printer.highestBedC,
    );
    return findings;
  },
};
