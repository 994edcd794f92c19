/** Temperatures as printers report them: `T:200.0 /200.0 B:60.0 /60.0 @:64 B@:30`. Common practice, no source. */

import { MOST_TOOLS } from "../../machine/state";

export interface HeaterReading {
  measuredC: number;
  /** What it is told to reach; null where the report does not say. */
  setC: number | null;
}

export interface TemperatureReport {
  /** By tool, from 0. */
  nozzles: HeaterReading[];
  bed: HeaterReading | null;
}

const pair = /(?:^|\s)(T\d*|B)\s*:\s*(-?\d+(?:\.\d+)?)(?:\s*\/\s*(-?\d+(?:\.\d+)?))?/g;

/** What a line says about temperatures, or null. Where `T0:`, `T1:` stand, the plain `T:` repeats one of them. */
export function readTemperatures(line: string): TemperatureReport | null {
  const nozzles: HeaterReading[] = [];
  let plain: HeaterReading | null = null;
  let bed: HeaterReading | null = null;
  for (const [, name, measured, set] of line.matchAll(pair)) {
    const reading = { measuredC: Number(measured), setC: set === undefined ? null : Number(set) };
    if (name === "B") bed = reading;
    else if (name === "T") plain = reading;
    else if (Number(name.slice(1)) < MOST_TOOLS) nozzles[Number(name.slice(1))] = reading;
  }
  const told = Array.from({ length: nozzles.length }, (_, tool) => nozzles[tool] ?? { measuredC: NaN, setC: null });
  if (told.length === 0 && plain) told.push(plain);
  return told.length === 0 && !bed ? null : { nozzles: told, bed };
}
