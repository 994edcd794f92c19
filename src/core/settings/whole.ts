/** Values that a printer is told as whole figures, looked at where somebody types them. */
import { refuse, Result, succeed } from "../result";
import { SettingKey, settingFor, SettingValues } from ".";

/** Refused with the setting's key as its field if a value lies between two that can be told. */
export function checkWhole(values: SettingValues): Result<null> {
  for (const [key, value] of Object.entries(values) as [SettingKey, number | undefined][]) {
    const { whole, label, unit } = settingFor(key);
    if (!whole || value === undefined || Number.isInteger(value)) continue;
    return refuse(`${label} is set in whole ${unit}: ${Math.floor(value)} or ${Math.ceil(value)}, not ${value}.`, key);
  }
  return succeed(null);
}
