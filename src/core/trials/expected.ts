/**
 * What earlier spools lead one to expect of a pair, before it has answered anything itself. A kept value of another pair says the more, the
 * nearer that pair is; how far values of such pairs really differ is learned on this bench, from cautious figures while there is little.
 */
import { optionsOf } from "../options/option";
import { SettingKey, settingFor, SettingValues } from "../settings";
import type { Printer } from "../shelf/printer";
import { pathOf } from "../shelf/five-questions";
import type { Spool } from "../shelf/spool";
import { clamp, plainNumber, roundTo } from "../units";
import { rangeOutwards, seenStep } from "../reading/say";
import { trialKindFor, roadKindKeys } from ".";

export interface KnownPair {
  printerId: number;
  spoolId: number;
  printer: Printer;
  spool: Spool;
  value: number;
}

export interface Expected {
  value: number;
  /** 9 of 10 such pairs lie between these. */
  fromValue: number;
  toValue: number;
  because: { printerId: number; spoolId: number; value: number; weight: number }[];
  /** `3 kept values for PLA of Larkfield: 202 to 211 °C` */
  why: string;
}

/** What is expected of some settings, without what each follows from. */
export type ExpectedRanges = Partial<Record<SettingKey, Omit<Expected, "because">>>;

/** Of a range wider than this share of what a kind looks in earlier spools tell too little: all of it is asked. */
const NARROW_SHARE = 0.65;

/** Whether a first round asks there instead of over the kind's whole range. */
export const isNarrow = (
  { fromValue, toValue }: Pick<Expected, "fromValue" | "toValue">,
  { low, high }: { low: number; high: number },
) => toValue - fromValue <= NARROW_SHARE * (high - low);

type Pair = Pick<KnownPair, "printer" | "spool">;

/**
 * What two pairs may differ in, with how far their values differ by it alone, in shares of the range that the kind looks in (common practice,
 * no source).
 */
const differences: readonly { differs: (a: Pair, b: Pair) => boolean; share: number }[] = [
  { differs: (a, b) => a.spool.maker !== b.spool.maker, share: 0.2 },
  { differs: (a, b) => a.spool.colourHex !== b.spool.colourHex, share: 0.1 },
  { differs: (a, b) => a.printer.name !== b.printer.name, share: 0.25 },
  { differs: (a, b) => a.printer.nozzleMm !== b.printer.nozzleMm, share: 0.15 },
];
/** Any two spools differ by so much. */
const ANY_SHARE = 0.13;
/** The cautious figures count as so many differences seen beside those of this bench. */
const DIFFERENCES_BEFORE = 6;
/** 9 of 10 of a normal distribution lie within so many deviations (any table of it). */
const NINE_OF_TEN = 1.645;

/** So many values say all there is to say; the first of those that are known count. */
const MOST_NEAR = 100;

/** What two pairs differ in, a bit a difference: pairs with the same bits are compared with one another. */
function kindOf(a: Pair, b: Pair): number {
  let bits = 0;
  for (let i = 0; i < differences.length; i++) if (differences[i].differs(a, b)) bits |= 1 << i;
  return bits;
}

/** Whether a value of one pair says anything about the other's: the same material, and for retraction the same way of the filament. */
const isComparable = (a: Pair, b: Pair) =>
  a.spool.material === b.spool.material && pathOf(a.printer) === pathOf(b.printer);

/**
 * What is to be expected of a pair; null where no comparable one is known.
 *
 * Each value v is taken as the pair's own plus a difference with the variance τ² of its kind; half of that is the asked pair's own and is
 * never averaged away, so that the variance of what is expected is τ²/2 of the nearest + 1 / Σ (2 / τ²).
 */
export function expectedOf(pair: Pair, setting: SettingKey, known: readonly KnownPair[]): Expected | null {
  const near = known.filter((one) => isComparable(pair, one)).slice(0, MOST_NEAR);
  return expectedFrom(pair, setting, near, differencesAmong(near));
}

/** @param near comparable pairs @param among the differences among them */
function expectedFrom(pair: Pair, setting: SettingKey, near: readonly KnownPair[], among: Among): Expected | null {
  if (near.length === 0) return null;
  const { lowest, highest, unit, decimals } = settingFor(setting);
  const range = usualRange(pair, setting);
  const variances = near.map((one) => varianceOf(pair, one, near.length, among, range));
  const weights = variances.map((variance) => 2 / variance);
  const all = weights.reduce((sum, weight) => sum + weight, 0);
  const value = near.reduce((sum, one, i) => sum + weights[i] * one.value, 0) / all;
  const spread = Math.sqrt(Math.min(...variances) / 2 + 1 / all);
  const seen = seenStep(setting);
  const ends = rangeOutwards(value - NINE_OF_TEN * spread, value + NINE_OF_TEN * spread, seen);
  const [fromValue, toValue] = [ends.from, ends.to].map((end) => roundTo(clamp(end, lowest, highest), decimals + 2));
  const { material, maker } = pair.spool;
  const ofMaker = near.every(({ spool }) => spool.maker === maker);
  const values = near.map((one) => one.value);
  const said = [Math.min(...values), Math.max(...values)].map((end) => plainNumber(end, decimals + 1));
  return {
    value: roundTo(Math.round(value / seen) * seen, decimals + 2),
    fromValue,
    toValue,
    because: near
      .map(({ printerId, spoolId, value: own }, i) => ({
        printerId,
        spoolId,
        value: own,
        weight: roundTo(weights[i] / all, 3),
      }))
      .sort((a, b) => b.weight - a.weight),
    why: `${near.length} kept ${near.length === 1 ? "value" : "values"} for ${material}${ofMaker ? ` of ${maker}` : ""}: ${said[0] === said[1] ? said[0] : said.join(" to ")} ${unit}`.trim(),
  };
}

/** What is held fixed as earlier spools lead one to expect it, where that is narrow enough to be held. */
export function heldAsExpected(pair: Pair, expected: ExpectedRanges, asked: readonly SettingKey[]): SettingValues {
  const narrow = (Object.entries(expected) as [SettingKey, Omit<Expected, "because">][]).filter(
    ([setting, { fromValue, toValue }]) =>
      !asked.includes(setting) && toValue - fromValue <= NARROW_SHARE * usualRange(pair, setting),
  );
  return Object.fromEntries(narrow.map(([setting, { value }]) => [setting, value]));
}

/** How wide the range is that the setting's kind looks in; of a setting that no kind looks for, ten of its steps. */
function usualRange({ printer, spool }: Pair, setting: SettingKey): number {
  const kind = roadKindKeys
    .map(trialKindFor)
    .find((one) => one.setting(printer, optionsOf(one.options, {}, printer)) === setting);
  if (!kind) return 10 * settingFor(setting).step;
  const { low, high } = kind.range(printer, spool, {});
  return high - low;
}

/** Squares of differences between values, and how many there are, by what their pairs differ in. */
interface Among {
  squares: Float64Array;
  count: Int32Array;
}

function addTo({ squares, count }: Among, a: KnownPair, b: KnownPair, sign: 1 | -1): void {
  const kind = kindOf(a, b);
  squares[kind] += sign * (a.value - b.value) ** 2;
  count[kind] += sign;
}

function differencesAmong(near: readonly KnownPair[]): Among {
  const kinds = 1 << differences.length;
  const among = { squares: new Float64Array(kinds), count: new Int32Array(kinds) };
  for (let i = 0; i < near.length; i++) for (let j = i + 1; j < near.length; j++) addTo(among, near[i], near[j], 1);
  return among;
}

/**
 * What is expected of each of some values from all the others, in their order. The differences among all are summed once, and those of the
 * value itself taken off: as much work as there are pairs of values.
 */
export function expectedOfEach(setting: SettingKey, known: readonly KnownPair[]): (Expected | null)[] {
  const groups: KnownPair[][] = [];
  for (const one of known) {
    const group = groups.find(([first]) => isComparable(first, one));
    if (group) group.push(one);
    else groups.push([one]);
  }
  const found = new Map<KnownPair, Expected | null>();
  for (const group of groups) {
    const among = differencesAmong(group);
    for (const own of group) {
      const others = group.filter((one) => one !== own);
      const without = { squares: among.squares.slice(), count: among.count.slice() };
      for (const other of others) addTo(without, own, other, -1);
      found.set(own, expectedFrom(own, setting, others, without));
    }
  }
  return known.map((one) => found.get(one)!);
}

/** How far values of pairs that differ as these two do lie apart, squared: what was seen on this bench, and the cautious figures. */
function varianceOf(pair: Pair, other: Pair, values: number, among: Among, range: number): number {
  const shares = differences.reduce(
    (sum, { differs, share }) => sum + (differs(pair, other) ? share * share : 0),
    ANY_SHARE * ANY_SHARE,
  );
  const before = 2 * shares * range * range;
  const kind = kindOf(pair, other);
  const [squares, count] = [among.squares[kind], among.count[kind]];
  // Differences among the same few values are not as many as there are pairs of them.
  const seen = Math.min(count, values - 1);
  const mean = count === 0 ? 0 : squares / count;
  return (DIFFERENCES_BEFORE * before + seen * mean) / (DIFFERENCES_BEFORE + seen);
}
