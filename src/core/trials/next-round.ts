/** The round that follows a reading: narrower around what cannot be told apart, or further out where the best lies at an edge. */
import { BEYOND_FROM } from "../reading/from-marks";
import { OPEN } from "../reading/from-surface";
import { finestStep } from "../reading/say";
import type { Verdict } from "../reading/verdict";
import { refuse, Result, succeed } from "../result";
import { SettingKey, settingFor } from "../settings";
import { clamp, plainNumber, roundTo } from "../units";
import { OnPair, roundEnds } from "./round-ends";
import { primaryKey } from "./shown";
import type { Trial } from "./trial";

/** The next step is about so much finer. */
const FINER = 2.5;
const FEWEST_VALUES = 4;
const MOST_VALUES = 9;
/** Of two settings at once every value of the one is printed with every value of the other. */
const MOST_OF_TWO = 6;
const FEWEST_A_SIDE = 2;
/** So many values lie beyond each end of the range. */
const BEYOND_ENDS = 1;
/** Beyond an edge so many values are tried, where little room is left. */
const FEWEST_FURTHER = 3;

/** All of a trial that a round follows from. */
type Asked = Pick<Trial, "kind" | "options" | "plan">;

/** The plan of the next round for a trial as it was printed; refused with the reason where there is nothing finer to ask. */
export function nextRound(trial: Asked, on: OnPair, verdict: Verdict): Result<Trial["plan"]> {
  const { printer } = on;
  const key = primaryKey(trial, printer);
  const tried = valuesOf(trial, key);
  if (
    verdict.value === null ||
    verdict.advice === "mark-more" ||
    verdict.fromValue === null ||
    verdict.toValue === null
  ) {
    return refuse(`There is nothing to go on from yet. ${verdict.why}`);
  }
  if (tried.length < 2) return refuse("One value alone spans no range to ask more finely in.");
  if (verdict.along) {
    const found = { ...verdict, value: verdict.value, along: verdict.along };
    return verdict.rule === "surface" ? nextSurface(trial, on, found) : nextField(trial, on, found);
  }
  const values =
    verdict.advice === "higher" || verdict.advice === "lower"
      ? further(key, on, tried, verdict.advice)
      : finer(key, on, tried, {
          ...verdict,
          fromValue: verdict.fromValue,
          toValue: verdict.toValue,
          value: verdict.value,
        });
  if (!values.ok) return values;
  return succeed(withValues(trial, key, values.value));
}

type Along = NonNullable<Verdict["along"]>;

/** A field goes on narrower both ways: round what was found across, and round the value along that it was found with. */
function nextField(
  { plan, ...trial }: Asked,
  on: OnPair,
  { value, fromValue, toValue, setting, along, why }: Verdict & { value: number; along: Along },
): Result<Trial["plan"]> {
  const besides = plan.sideBySide;
  if (besides?.setting !== setting) return refuse(why);
  const across = [...besides.values].sort((a, b) => a - b);
  const stepOf = (values: number[]) => (values[values.length - 1] - values[0]) / (values.length - 1);
  const narrower = finer(setting, on, across, { value, fromValue: fromValue ?? value, toValue: toValue ?? value });
  if (!narrower.ok) return narrower;
  const alongs = valuesOf({ ...trial, plan }, along.setting);
  const rows = finer(along.setting, on, alongs, {
    value: along.value,
    fromValue: along.value - stepOf(alongs) / 2,
    toValue: along.value + stepOf(alongs) / 2,
  });
  const next = rows.ok ? withValues({ ...trial, plan }, along.setting, rows.value) : plan;
  return succeed({ ...next, sideBySide: { setting, values: narrower.value.filter((one) => one > 0) } });
}

/** Two settings go on each by itself: finer where it lies inside, further where it may lie beyond; what makes no difference stays as it is. */
function nextSurface(
  trial: Asked,
  on: OnPair,
  found: Verdict & { value: number; along: Along },
): Result<Trial["plan"]> {
  const { setting, along } = found;
  const beside = nextValues(trial, on, setting, {
    ...found,
    fromValue: found.fromValue ?? found.value,
    toValue: found.toValue ?? found.value,
  });
  const up = nextValues(trial, on, along.setting, along);
  if (!beside.ok && !up.ok) return beside;
  const plan = up.ok ? withValues(trial, along.setting, up.value) : trial.plan;
  return beside.ok ? succeed({ ...plan, sideBySide: { setting, values: beside.value } }) : succeed(plan);
}

function nextValues(
  trial: Asked,
  on: OnPair,
  key: SettingKey,
  { chanceBelow, chanceAbove, ...range }: Range & { chanceBelow: number; chanceAbove: number },
): Result<number[]> {
  const tried = valuesOf(trial, key);
  if (tried.length < 2) return refuse("One value alone spans no range to ask more finely in.");
  if (Math.max(chanceBelow, chanceAbove) > BEYOND_FROM)
    return further(key, on, tried, chanceAbove >= chanceBelow ? "higher" : "lower");
  const isOpen = range.toValue - range.fromValue > OPEN * (tried[tried.length - 1] - tried[0]);
  return isOpen ? succeed(tried) : finer(key, on, tried, range, MOST_OF_TWO);
}

/** A plan that asks around a value which is known from elsewhere: as finely as a second round would, a step of the first to each side. */
export function narrowedAround(trial: Asked, on: OnPair, value: number): Result<Trial["plan"]> {
  const tried = valuesOf(trial, primaryKey(trial, on.printer));
  const step = (tried[tried.length - 1] - tried[0]) / Math.max(1, tried.length - 1);
  return narrowedTo(trial, on, { value, fromValue: value - step / 2, toValue: value + step / 2 });
}

/** A plan over a range that is known from elsewhere. */
export function narrowedTo(trial: Asked, on: OnPair, range: Range): Result<Trial["plan"]> {
  const key = primaryKey(trial, on.printer);
  const tried = valuesOf(trial, key);
  if (tried.length < 2) return refuse("One value alone spans no range to ask more finely in.");
  const values = finer(key, on, tried, range);
  return values.ok ? succeed(withValues(trial, key, values.value)) : values;
}

/** The values of a setting that a plan tries, rising, each once. */
export function valuesOf({ plan }: Asked, key: SettingKey): number[] {
  const all =
    plan.sideBySide?.setting === key
      ? plan.sideBySide.values
      : plan.bands.flatMap(({ settings }) => (settings[key] === undefined ? [] : [settings[key]]));
  return [...new Set(all)].sort((a, b) => a - b);
}

interface Range {
  value: number;
  fromValue: number;
  toValue: number;
}

/**
 * Values over the whole range that may hold what is looked for, and one beyond it on each side, so that its ends are seen; the value that was
 * found is one of them.
 */
function finer(
  key: SettingKey,
  on: OnPair,
  tried: readonly number[],
  range: Range,
  most = MOST_VALUES,
): Result<number[]> {
  const { unit, decimals, label } = settingFor(key);
  const step = (tried[tried.length - 1] - tried[0]) / (tried.length - 1);
  const finest = finestStep(key);
  if (step <= finest * 1.01) {
    return refuse(
      `The bands are ${plainNumber(step, decimals + 1)} ${unit} apart: finer differences of ${label.toLowerCase()} cannot be seen. Keep what you found.`,
    );
  }
  const { value, fromValue, toValue } = range;
  const grid = finest / 2;
  const covering = (toValue - fromValue) / (most - 1 - 2 * BEYOND_ENDS);
  const next = Math.min(
    step,
    Math.max(finest, Math.round(step / FINER / grid) * grid, Math.ceil(covering / grid) * grid),
  );
  const middle = Math.round(value / grid) * grid;
  const { low, high } = roundEnds(key, on, tried);
  const count = (room: number) => Math.max(FEWEST_A_SIDE, Math.ceil(Math.max(0, room) / next - 1e-9) + BEYOND_ENDS);
  let [below, above] = [count(middle - fromValue), count(toValue - middle)];
  while (below + above + 1 > most) {
    if (below > above) below--;
    else above--;
  }
  const whole = below + above + 1;
  const first = clamp(middle - below * next, low, Math.max(low, high - (whole - 1) * next));
  const values = Array.from({ length: whole }, (_, i) => roundTo(first + i * next, decimals + 2));
  return succeed(values.filter((one) => one >= low - 1e-9 && one <= high + 1e-9));
}

/** Values from the edge on; the edge and the value before it are tried again, so that the two rounds can be held against each other. */
function further(key: SettingKey, on: OnPair, tried: readonly number[], towards: "higher" | "lower"): Result<number[]> {
  const { low, high } = roundEnds(key, on, tried);
  const { label, unit, decimals } = settingFor(key);
  const rising = towards === "higher";
  const sign = rising ? 1 : -1;
  const [edge, before] = rising ? tried.slice(-2).reverse() : tried;
  const room = Math.max(0, rising ? high - edge : edge - low);
  const grid = finestStep(key) / 2;
  // Little room is gone through in smaller steps.
  const even = Math.floor(room / FEWEST_FURTHER / grid + 1e-9) * grid;
  const step = Math.min(Math.abs(edge - before), Math.max(even, finestStep(key)));
  const count = Math.min(Math.max(tried.length, FEWEST_VALUES) - 2, Math.floor(room / step + 1e-9), MOST_VALUES - 2);
  if (count < 1) {
    return refuse(
      `${label} ends at ${plainNumber(rising ? high : low, decimals)} ${unit} for ${on.printer.name}${on.spool ? ` and ${on.spool.name}` : ""}: there is nothing ${towards} to try.`,
    );
  }
  const beyond = Array.from({ length: count }, (_, i) => roundTo(edge + sign * (i + 1) * step, decimals + 2));
  return succeed([before, edge, ...beyond].sort((a, b) => a - b));
}

/** A plan with other values of a setting: base, band height, order and everything else as they were. */
export function withValues({ plan }: Asked, key: SettingKey, rising: number[]): Trial["plan"] {
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
