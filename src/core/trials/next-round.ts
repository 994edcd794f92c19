/** The round that follows a reading: narrower around what cannot be told apart, or further out where the best lies at an edge. */
import type { Verdict } from "../reading/verdict";
import { refuse, Result, succeed } from "../result";
import { SettingKey, settingFor } from "../settings";
import type { Printer } from "../shelf/printer";
import { clamp, plainNumber, roundTo } from "../units";
import { primaryKey } from "./shown";
import type { Trial } from "./trial";

/** A step finer than this share of a setting's usual one cannot be seen on any piece. Common practice, no source. */
const FINEST_SHARE = 0.4;
/** The next step is about so much finer. */
const FINER = 2.5;
const FEWEST_VALUES = 4;
const MOST_VALUES = 9;

/** All of a trial that a round follows from. */
type Asked = Pick<Trial, "kind" | "options" | "plan">;

/** The plan of the next round for a trial as it was printed; refused with the reason where there is nothing finer to ask. */
export function nextRound(trial: Asked, printer: Printer, verdict: Verdict): Result<Trial["plan"]> {
  const key = primaryKey(trial, printer);
  const tried = triedValues(trial, key);
  if (
    verdict.value === null ||
    verdict.advice === "mark-more" ||
    verdict.fromValue === null ||
    verdict.toValue === null
  ) {
    return refuse(`There is nothing to go on from yet. ${verdict.why}`);
  }
  if (tried.length < 2) return refuse("One value alone spans no range to ask more finely in.");
  if (verdict.along) return nextField(trial, printer, { ...verdict, value: verdict.value, along: verdict.along });
  const step = (tried[tried.length - 1] - tried[0]) / (tried.length - 1);
  const values =
    verdict.advice === "higher" || verdict.advice === "lower"
      ? further(key, printer, tried, step, verdict.advice)
      : finer(key, printer, step, {
          ...verdict,
          fromValue: verdict.fromValue,
          toValue: verdict.toValue,
          value: verdict.value,
        });
  if (!values.ok) return values;
  return succeed(withValues(trial, key, values.value));
}

/** A field goes on narrower both ways: round what was found across, and round the value along that it was found with. */
function nextField(
  { plan, ...trial }: Asked,
  printer: Printer,
  { value, setting, along, why }: Verdict & { value: number; along: NonNullable<Verdict["along"]> },
): Result<Trial["plan"]> {
  const besides = plan.sideBySide;
  if (besides?.setting !== setting) return refuse(why);
  const across = [...besides.values].sort((a, b) => a - b);
  const stepOf = (values: number[]) => (values[values.length - 1] - values[0]) / (values.length - 1);
  const step = stepOf(across);
  const narrower = finer(setting, printer, step, { value, fromValue: value - step / 2, toValue: value + step / 2 });
  if (!narrower.ok) return narrower;
  const alongs = triedValues({ ...trial, plan }, along.setting);
  const rows = finer(along.setting, printer, stepOf(alongs), {
    value: along.value,
    fromValue: along.value - stepOf(alongs) / 2,
    toValue: along.value + stepOf(alongs) / 2,
  });
  const next = rows.ok ? withValues({ ...trial, plan }, along.setting, rows.value) : plan;
  return succeed({ ...next, sideBySide: { setting, values: narrower.value.filter((one) => one > 0) } });
}

/** A plan that asks around a value which is known from elsewhere: as finely as a second round would, a step of the first to each side. */
export function narrowedAround(trial: Asked, printer: Printer, value: number): Result<Trial["plan"]> {
  const key = primaryKey(trial, printer);
  const tried = triedValues(trial, key);
  if (tried.length < 2) return refuse("One value alone spans no range to ask more finely in.");
  const step = (tried[tried.length - 1] - tried[0]) / (tried.length - 1);
  const values = finer(key, printer, step, { value, fromValue: value - step / 2, toValue: value + step / 2 });
  return values.ok ? succeed(withValues(trial, key, values.value)) : values;
}

/** Values tried, rising, each once. */
function triedValues({ plan }: Asked, key: SettingKey): number[] {
  const all =
    plan.sideBySide?.setting === key
      ? plan.sideBySide.values
      : plan.bands.flatMap(({ settings }) => (settings[key] === undefined ? [] : [settings[key]]));
  return [...new Set(all)].sort((a, b) => a - b);
}

/** What the setting and this printer allow. */
function limits(key: SettingKey, printer: Printer): { low: number; high: number } {
  const { lowest, highest } = settingFor(key);
  const own: Partial<Record<SettingKey, number>> = {
    nozzleTemperature: printer.highestNozzleC,
    bedTemperature: printer.highestBedC,
    printSpeed: printer.highestFeedXyMmS,
    retractionSpeed: printer.highestFeedEMmS,
  };
  return { low: lowest, high: Math.min(highest, own[key] ?? highest) };
}

function finer(
  key: SettingKey,
  printer: Printer,
  step: number,
  { value, fromValue, toValue }: { value: number; fromValue: number; toValue: number },
): Result<number[]> {
  const { step: usual, unit, decimals, label } = settingFor(key);
  const finest = usual * FINEST_SHARE;
  if (step <= finest * 1.01) {
    return refuse(
      `The bands lie ${plainNumber(step, decimals + 1)} ${unit} apart: finer differences of ${label.toLowerCase()} cannot be seen. Keep what was found.`,
    );
  }
  const grid = finest / 2;
  const next = Math.max(finest, Math.round(step / FINER / grid) * grid);
  // An odd number, so that what was found is tried itself.
  const count = clamp(Math.ceil((toValue - fromValue) / next) + 4, FEWEST_VALUES, MOST_VALUES) | 1;
  const middle = Math.round(value / grid) * grid;
  const { low, high } = limits(key, printer);
  const first = clamp(middle - ((count - 1) / 2) * next, low, Math.max(low, high - (count - 1) * next));
  const values = Array.from({ length: count }, (_, i) => roundTo(first + i * next, decimals + 2));
  return succeed(values.filter((one) => one >= low && one <= high));
}

function further(
  key: SettingKey,
  printer: Printer,
  tried: number[],
  step: number,
  towards: "higher" | "lower",
): Result<number[]> {
  const { low, high } = limits(key, printer);
  const { label, unit, decimals } = settingFor(key);
  const edge = towards === "higher" ? tried[tried.length - 1] : tried[0];
  const sign = towards === "higher" ? 1 : -1;
  const count = clamp(tried.length, FEWEST_VALUES, MOST_VALUES);
  // The edge and the value before it are tried again, so that the two rounds can be held against each other.
  const values = Array.from({ length: count }, (_, i) => roundTo(edge + sign * (i - 1) * step, decimals + 2)).filter(
    (value) => value >= low && value <= high,
  );
  if (values.length < FEWEST_VALUES - 1) {
    return refuse(
      `${label} ends at ${plainNumber(towards === "higher" ? high : low, decimals)} ${unit} on ${printer.name}: there is nothing ${towards} to try.`,
    );
  }
  return succeed(values.sort((a, b) => a - b));
}

/** The plan with other values: base, band height, order and everything else as they were. */
function withValues({ plan }: Asked, key: SettingKey, rising: number[]): Trial["plan"] {
  if (plan.sideBySide?.setting === key) return { ...plan, sideBySide: { setting: key, values: rising } };
  const falls = (plan.bands[0].settings[key] ?? 0) > (plan.bands[plan.bands.length - 1].settings[key] ?? 0);
  const values = falls ? [...rising].reverse() : rising;
  const [{ heightMm }] = plan.bands;
  // What else was tried goes along as the nearest band had it.
  const nearest = (value: number) =>
    plan.bands.reduce((best, band) =>
      Math.abs((band.settings[key] ?? Infinity) - value) < Math.abs((best.settings[key] ?? Infinity) - value)
        ? band
        : best,
    );
  return {
    ...plan,
    bands: values.map((value) => ({ heightMm, settings: { ...nearest(value).settings, [key]: value } })),
  };
}
