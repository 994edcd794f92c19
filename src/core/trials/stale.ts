/** Whether a kept value still holds: what has changed since it was found, a sentence each. */
import type { ValueEntry } from "../firmware/values/reading";
import { valueFor } from "../firmware/values";
import { sayFirmwareValue } from "../firmware/values/say";
import { sayValue, settingFor, SettingKey } from "../settings";
import type { Printer } from "../shelf/printer";
import { plainNumber } from "../units";
import type { KeptValue } from "./kept";
import type { Need } from "./need";

/** A firmware value that differs by less than this share is the same: printers round what they tell. */
const SAME_SHARE = 0.002;
const DAY_MS = 86_400_000;

export interface Around {
  printer: Printer;
  /** Everything that counts for the pair now. */
  kept: readonly KeptValue[];
  /** When each tune was measured on the printer last. */
  measuredAt: ReadonlyMap<string, string>;
  /** Readings of the printer's firmware values, newest first. */
  readings: readonly { takenAt: string; entries: readonly Pick<ValueEntry, "id" | "value">[] }[];
  /** When everything was to be asked again; null for never. */
  askedAnewAt: string | null;
  /** Older than this many days is stale. */
  staleDays: number;
  now: string;
}

/** Why a value does not hold any more; nothing if it does. `needs` is what its question rests on. */
export function whyStale(own: KeptValue, needs: readonly Need[], around: Around): string[] {
  const { printer, askedAnewAt, now, staleDays } = around;
  const why: string[] = [];
  if (askedAnewAt !== null && askedAnewAt > own.keptAt) why.push("Marked to be asked again.");
  if (own.nozzleMm !== null && own.nozzleMm !== printer.nozzleMm) {
    why.push(
      `It was found with a ${plainNumber(own.nozzleMm)} mm nozzle; ${printer.name} has a ${plainNumber(printer.nozzleMm)} mm one now.`,
    );
  }
  for (const need of needs) why.push(...keptSince(own, need, around), ...measuredSince(own, need, around));
  const days = Math.floor((Date.parse(now) - Date.parse(own.keptAt)) / DAY_MS);
  if (days > staleDays) why.push(`It is ${days} days old.`);
  return why;
}

/** Another value of what it rests on is kept now than was then. */
function keptSince(own: KeptValue, { settings }: Need, { kept }: Around): string[] {
  return settings.flatMap((key: SettingKey) => {
    const other = kept.find(({ setting }) => setting === key);
    if (!other || key === own.setting || other.keptAt <= own.keptAt) return [];
    const then = own.inForce[key];
    if (then !== undefined && Math.abs(then - other.value) <= settingFor(key).tolerance) return [];
    const { label } = settingFor(key);
    return [
      `${label} was kept later: ${sayValue(key, other.value)}${then === undefined ? "" : ` instead of ${sayValue(key, then)}`}.`,
    ];
  });
}

/** The tune it rests on was measured later, or the printer has other values by now. */
function measuredSince(
  own: KeptValue,
  { tune, says, firmware = [] }: Need,
  { measuredAt, readings }: Around,
): string[] {
  const at = tune === undefined ? undefined : measuredAt.get(tune);
  if (at !== undefined && at > own.keptAt) return [`Measured later: ${says}.`];
  const then = readings.find(({ takenAt }) => takenAt <= own.keptAt);
  const [latest] = readings;
  if (!then || latest === then) return [];
  return firmware.flatMap((id) => {
    const [before, after] = [then, latest].map(({ entries }) => entries.find((entry) => entry.id === id)?.value);
    const definition = valueFor(id)?.definition;
    if (!definition || before === undefined || after === undefined) return [];
    if (Math.abs(after - before) <= Math.abs(before) * SAME_SHARE) return [];
    return [
      `${definition.label} was ${sayFirmwareValue(definition, before)} then and is ${sayFirmwareValue(definition, after)} now.`,
    ];
  });
}
