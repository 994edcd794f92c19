/** What should be settled before a question is worth asking, and whether it is. */
import type { SettingKey, SettingValues } from "../settings";

export interface Need {
  /** As the end of a sentence: `nozzle temperature`. */
  says: string;
  /** It is settled once one of these is kept for the pair … */
  settings: readonly SettingKey[];
  /** … or this tune was measured on the printer. */
  tune?: string;
  /** Values of the firmware it rests on, by id: where they are others by now, what was found with them is stale. */
  firmware?: readonly string[];
}

export const needs = {
  steps: { says: "extruder steps", settings: [], tune: "extruder-steps", firmware: ["extruderSteps"] },
  temperature: { says: "nozzle temperature", settings: ["nozzleTemperature"] },
  fan: { says: "fan", settings: ["fan"] },
  flow: { says: "flow", settings: ["flowFactor"], tune: "wall-flow" },
  speed: { says: "speed", settings: ["printSpeed"] },
  acceleration: {
    says: "acceleration",
    settings: ["acceleration"],
    firmware: ["highestAccelerationX", "highestAccelerationY"],
  },
  cornering: { says: "cornering", settings: ["jerk", "junctionDeviation"], firmware: ["jerkX", "junctionDeviation"] },
} as const satisfies Record<string, Need>;

/** Those that are still open, in their order: `nozzle temperature, then fan`; empty if all are settled. */
export function unsettled(wanted: readonly Need[], kept: SettingValues, measured: ReadonlySet<string>): string {
  return wanted
    .filter(({ settings, tune }) => !settings.some((key) => kept[key] !== undefined) && !(tune && measured.has(tune)))
    .map(({ says }) => says)
    .join(", then ");
}
