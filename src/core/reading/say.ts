/** Values of a verdict, as fine as a piece can tell, and in words. */
import { settingFor, SettingKey } from "../settings";
import { plainNumber, roundTo } from "../units";

/** A value on the finest step that a piece can tell. */
export function sensible(setting: SettingKey, value: number): number {
  const { step, decimals } = settingFor(setting);
  const fine = step / FINE_PARTS;
  return roundTo(Math.round(value / fine) * fine, decimals + 2);
}

/** A value is given to a fifth of the usual step: 1 °C, 2 %, 0.1 mm. */
const FINE_PARTS = 5;

/** `206 to 213 °C` */
export function sayRange(setting: SettingKey, from: number, to: number): string {
  const { unit, decimals } = settingFor(setting);
  const [low, high] = [from, to].map((value) => plainNumber(sensible(setting, value), decimals + 1));
  return low === high ? `${low} ${unit}` : `${low} to ${high} ${unit}`;
}
