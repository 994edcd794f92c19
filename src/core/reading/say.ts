/** Values of a verdict, as fine as a piece can tell, and in words. */
import { settingFor, SettingKey } from "../settings";
import { plainNumber, roundTo } from "../units";

/** A value on the finest step that a value is named with. */
export function sensible(setting: SettingKey, value: number): number {
  const fine = seenStep(setting);
  return roundTo(Math.round(value / fine) * fine, settingFor(setting).decimals + 2);
}

/** A value is given to a fifth of the usual step: 1 °C, 2 %, 0.1 mm. */
const NAMED_PARTS = 5;
export const seenStep = (setting: SettingKey) => settingFor(setting).step / NAMED_PARTS;

/** A step finer than this share of a setting's usual one cannot be seen on any piece. Common practice, no source. */
const FINEST_SHARE = 0.4;
export const finestStep = (setting: SettingKey) => settingFor(setting).step * FINEST_SHARE;

/** A range on the steps that values are named with, rounded outwards: it holds all that the unrounded one does. */
export function rangeOutwards(from: number, to: number, step: number): { from: number; to: number } {
  return { from: Math.floor(from / step + EXACT) * step, to: Math.ceil(to / step - EXACT) * step };
}

/** What is this near a step, in steps, lies on it. */
const EXACT = 1e-6;

/** `206 to 213 °C` */
export function sayRange(setting: SettingKey, from: number, to: number): string {
  const { unit, decimals } = settingFor(setting);
  const range = rangeOutwards(from, to, seenStep(setting));
  const [low, high] = [range.from, range.to].map((value) => plainNumber(value, decimals + 1));
  return low === high ? `${low} ${unit}` : `${low} to ${high} ${unit}`;
}

/** `from 206 to 213 °C`, `at 210 °C` */
export function sayFromTo(setting: SettingKey, from: number, to: number): string {
  const range = sayRange(setting, from, to);
  return `${range.includes(" to ") ? "from" : "at"} ${range}`;
}

/** `7 chances in 10` */
export function sayChance(chance: number): string {
  const tenths = Math.round(chance * 10);
  if (tenths >= 10) return "It is all but certain";
  if (tenths <= 0) return "Less than 1 chance in 10";
  return `${tenths} ${tenths === 1 ? "chance" : "chances"} in 10`;
}
