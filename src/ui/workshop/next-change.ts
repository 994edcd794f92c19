import type { Change } from "@/core/heightplan/change";
import { SettingKey, settingFor } from "@/core/settings";
import { convertPlace, placeFigure, placeFrom, PlaceMode } from "./places";

/** The change that goes on as the last ones did: as far above, one step of its setting on. */
export function nextChange(
  changes: Change[],
  mode: PlaceMode,
  layers: readonly { zMm: number; heightMm: number }[],
): Change {
  const last = changes[changes.length - 1];
  const key = (Object.keys(last?.settings ?? { nozzleTemperature: 0 }) as SettingKey[])[0];
  const { step, lowest, highest } = settingFor(key);
  const before = changes.length > 1 ? placeFigure(convertPlace(changes[changes.length - 2].from, mode, layers)) : 0;
  const at = last ? placeFigure(convertPlace(last.from, mode, layers)) : 0;
  const stride = at - before || (mode === "height" ? 10 : 50);
  const value = last ? (last.settings[key] ?? 0) - step : 210;
  return {
    from: placeFrom(Math.max(0, at + stride), mode),
    settings: { [key]: Math.min(highest, Math.max(lowest, value)) },
  };
}
