/** What came of a tune, as data; words are made when it is shown. */
import { sayFirmwareValue } from "../firmware/values/say";
import { valueFor } from "../firmware/values";
import { SettingKey, settingFor, SettingValues } from "../settings";
import { plainNumber } from "../units";
import type { TuneOutcome } from "./tune";

export interface TuneResult {
  firmware: Record<string, number>;
  settings: SettingValues;
  printer: { highestFlowMm3S?: number };
}

/**
 * What is kept of a tune. Where nothing needed to be changed, that is what the printer has (`inForce`), not what the sum would have made
 * of it; where a new value was tried, it is that one.
 */
export function resultOf(
  last: TuneOutcome,
  tried: TuneOutcome | undefined,
  inForce: Record<string, number>,
): TuneResult {
  const { firmware } = tried ?? last;
  const stays = !tried && last.within;
  return {
    firmware: Object.fromEntries(
      Object.entries(firmware).map(([id, value]) => [id, stays ? (inForce[id] ?? value) : value]),
    ),
    settings: last.settings ?? {},
    printer: { highestFlowMm3S: last.printer?.highestFlowMm3S },
  };
}

/** Name and figure of everything in a result, in order: `["P", "22.2"]`. */
export function resultFigures({ firmware, settings, printer }: TuneResult): { name: string; figure: string }[] {
  return [
    ...Object.entries(firmware).map(([id, value]) => {
      const found = valueFor(id);
      if (!found) return { name: id, figure: plainNumber(value, 2) };
      const { definition, tool } = found;
      return {
        name: tool === 0 ? definition.label : `${definition.label}, tool ${tool}`,
        figure: sayFirmwareValue(definition, value),
      };
    }),
    ...(Object.entries(settings) as [SettingKey, number][]).map(([key, value]) => {
      const { label, unit, decimals } = settingFor(key);
      return { name: label, figure: `${plainNumber(value, Math.max(1, decimals))} ${unit}` };
    }),
    ...(printer.highestFlowMm3S === undefined
      ? []
      : [{ name: "Flow at most", figure: `${plainNumber(printer.highestFlowMm3S, 1)} mm³/s` }]),
  ];
}

/** All of it in one line: `P 22.2, I 1.08, D 114`. */
export function sayResult(result: TuneResult): string {
  return resultFigures(result)
    .map(({ name, figure }) => `${name} ${figure}`)
    .join(", ");
}
