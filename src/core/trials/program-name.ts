/** What the file of a trial is called: what it asks, of which spool, and with which values. */
import type { Printer } from "../shelf/printer";
import type { Spool } from "../shelf/spool";
import { plainNumber } from "../units";
import { settingFor } from "../settings";
import { trialKindFor } from ".";
import { primaryKey } from "./shown";
import type { Trial } from "./trial";

/** `nozzle-temperature Bottle Green 250-225C 10mm.gcode` */
export function programName(trial: Trial, printer: Printer, spool: Spool): string {
  const key = primaryKey(trial, printer);
  const { decimals, unit } = settingFor(key);
  const values = trial.plan.bands.flatMap(({ settings }) => settings[key] ?? []);
  const figures = values.length > 0 ? values : (trial.plan.sideBySide?.values ?? []);
  const say = (value: number) => plainNumber(value, decimals);
  const [first, last] = [figures[0], figures.at(-1)];
  const range =
    first === undefined || last === undefined
      ? ""
      : `${first === last ? say(first) : `${say(first)}-${say(last)}`}${unit.replaceAll(/[^A-Za-z0-9]/g, "")}`;
  const heights = new Set(trial.plan.bands.map(({ heightMm }) => heightMm));
  const height = heights.size === 1 ? `${plainNumber([...heights][0])}mm` : "";
  const kind = trialKindFor(trial.kind).label.toLowerCase().replaceAll(" ", "-");
  return `${[kind, spool.colourName || spool.name, range, height].filter(Boolean).join(" ")}.gcode`;
}
