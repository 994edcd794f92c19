/** Which kind looks for a setting by itself, and with which options: what a question about two settings is made of, and goes on in. */
import type { OptionValues } from "../../options/option";
import type { SettingKey } from "../../settings";
import type { TrialKind } from "../kind";
import { acceleration } from "./acceleration";
import { cornering } from "./cornering";
import { fan } from "./fan";
import { flow } from "./flow";
import { pressureAdvance } from "./pressure-advance";
import { retraction } from "./retraction";
import { speed } from "./speed";
import { temperature } from "./temperature";

export interface Alone {
  key: "temperature" | "fan" | "retraction" | "flow" | "speed" | "acceleration" | "cornering" | "pressure-advance";
  kind: TrialKind;
  options: OptionValues;
}

export const alone: Partial<Record<SettingKey, Alone>> = {
  nozzleTemperature: { key: "temperature", kind: temperature, options: {} },
  fan: { key: "fan", kind: fan, options: {} },
  retractionLength: { key: "retraction", kind: retraction, options: { vary: "length" } },
  retractionSpeed: { key: "retraction", kind: retraction, options: { vary: "speed" } },
  flowFactor: { key: "flow", kind: flow, options: {} },
  printSpeed: { key: "speed", kind: speed, options: {} },
  acceleration: { key: "acceleration", kind: acceleration, options: {} },
  jerk: { key: "cornering", kind: cornering, options: {} },
  junctionDeviation: { key: "cornering", kind: cornering, options: {} },
  pressureAdvance: { key: "pressure-advance", kind: pressureAdvance, options: { form: "tower" } },
};
