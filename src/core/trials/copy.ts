/** A trial taken to another printer or spool. */
import { dialects } from "../machine/dialects";
import { deviationForJerkMm, jerkForDeviationMmS } from "../motion/cornering";
import { settingFor, SettingValues } from "../settings";
import { Printer } from "../shelf/printer";
import { Spool } from "../shelf/spool";
import { clamp, roundTo } from "../units";
import { trialKindFor } from ".";
import { Trial } from "./trial";

/**
 * The trial in the words of another printer: jerk and junction deviation become each other (`δ ≈ 0.4·j²/a`), and the tool is one it
 * has. All other values stay; the checks look at them anew on the new printer.
 */
export function forPrinter(trial: Trial, printer: Printer): Trial {
  const plan = {
    ...trial.plan,
    bands: trial.plan.bands.map((band) => ({ ...band, settings: corneringFor(band.settings, printer) })),
  };
  return {
    ...trial,
    plan,
    fixed: corneringFor(trial.fixed, printer),
    tool: clamp(trial.tool, 0, printer.tools - 1),
  };
}

/**
 * The trial put to another spool: what is held fixed as the first spool wants it is held as the second does, kept values first, and a
 * name that is its kind's question asks of the second. What was chosen otherwise stays, and so does the plan: the checks look at it anew.
 */
export function forSpool(trial: Trial, printer: Printer, { from, to, kept }: SpoolChange): Trial {
  const fixed = { ...trial.fixed };
  for (const key of ["nozzleTemperature", "bedTemperature", "fan"] as const) {
    const { usual } = settingFor(key);
    const isFirstSpools = fixed[key] === from.kept[key] || fixed[key] === usual(printer, from.spool);
    if (fixed[key] !== undefined && isFirstSpools) fixed[key] = kept[key] ?? usual(printer, to);
  }
  const kind = trialKindFor(trial.kind);
  const isOwnQuestion = trial.name === kind.question(from.spool, trial.options);
  return { ...trial, fixed, name: isOwnQuestion ? kind.question(to, trial.options) : trial.name };
}

interface SpoolChange {
  from: { spool: Spool; kept: SettingValues };
  to: Spool;
  /** What is kept for the printer and the second spool. */
  kept: SettingValues;
}

/** Cornering in the one of its two figures that the printer has. */
export function corneringFor(values: SettingValues, printer: Printer): SettingValues {
  const { jerk, junctionDeviation, ...rest } = values;
  const a = printer.printAccelerationMmS2;
  if (dialects[printer.dialect].cornering === "jerk") {
    const value = jerk ?? (junctionDeviation === undefined ? undefined : jerkForDeviationMmS(junctionDeviation, a));
    return value === undefined ? rest : { ...rest, jerk: clamp(roundTo(value, 2), 0.1, 100) };
  }
  const value = junctionDeviation ?? (jerk === undefined ? undefined : deviationForJerkMm(jerk, a));
  return value === undefined ? rest : { ...rest, junctionDeviation: clamp(roundTo(value, 4), 0.001, 1) };
}
