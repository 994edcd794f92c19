/** All settings. A new one is one file and one line here. */
import { plainNumber } from "../units";
import { acceleration } from "./acceleration";
import { bedTemperature } from "./bed-temperature";
import { fan } from "./fan";
import { flowFactor } from "./flow-factor";
import { jerk } from "./jerk";
import { junctionDeviation } from "./junction-deviation";
import { nozzleTemperature } from "./nozzle-temperature";
import { pressureAdvance } from "./pressure-advance";
import { printSpeed } from "./print-speed";
import { retractionLength } from "./retraction-length";
import { retractionSpeed } from "./retraction-speed";
import { Setting } from "./setting";
import { travelSpeed } from "./travel-speed";
import { speedFactor } from "./speed-factor";

export const settings = {
  nozzleTemperature,
  bedTemperature,
  fan,
  speedFactor,
  flowFactor,
  printSpeed,
  travelSpeed,
  retractionLength,
  retractionSpeed,
  acceleration,
  jerk,
  junctionDeviation,
  pressureAdvance,
} satisfies Record<string, Setting>;

export type SettingKey = keyof typeof settings;

export const settingKeys = Object.keys(settings) as [SettingKey, ...SettingKey[]];

/** Values of some settings, each in its own unit. */
export type SettingValues = Partial<Record<SettingKey, number>>;

/** The setting for a key; typed as the general contract. */
export function settingFor(key: SettingKey): Setting {
  return settings[key];
}

/** A value as people read it: `230 °C`. */
export function sayValue(key: SettingKey, value: number): string {
  const { decimals, unit } = settings[key];
  return `${plainNumber(value, decimals)} ${unit}`.trim();
}
