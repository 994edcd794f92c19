/**
 * What earlier spools lead one to expect of a pair, before it has answered anything itself. A kept value of another pair says the more, the
 * nearer that pair is; how far values of such pairs really differ is learned on this bench, from cautious figures while there is little.
 */
import { optionsOf } from "../options/option";
import { SettingKey, settingFor } from "../settings";
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

/** Of a range wider than this share of what a kind looks in earlier spools tell too little: all of it is asked. */
const NARROW_SHARE = 0.65;

/** Whether a first round asks there instead of over the kind's whole range. */
export const isNarrow = ({ fromValue, toValue }: Expected, { low, high }: { low: number; high: number }) =>
  toValue - fromValue <= NARROW_SHARE * (high - low);

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

/** What two pairs differ in, as a word: pairs with the same word are compared with one another. */
const kindOf = (a: Pair, b: Pair) => differences.map(({ differs }) => (differs(a, b) ? "1" : "0")).join("");

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
  const near = known.filter((one) => isComparable(pair, one));
  if (near.length === 0) return null;
  const { lowest, highest, unit, decimals } = settingFor(setting);
  const range = usualRange(pair, setting);
  const variances = near.map((one) => varianceOf(pair, one, near, range));
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
export function heldAsExpected(
  pair: Pair,
  expected: Partial<Record<SettingKey, Expected>>,
  asked: readonly SettingKey[],
): Partial<Record<SettingKey, number>> {
  const narrow = (Object.entries(expected) as [SettingKey, Expected][]).filter(
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
  const { low, high } = kind.range(printer, spool);
  return high - low;
}

/** How far values of pairs that differ as these two do lie apart, squared: what was seen on this bench, and the cautious figures. */
function varianceOf(pair: Pair, other: Pair, near: readonly KnownPair[], range: number): number {
  const kind = kindOf(pair, other);
  const shares = differences.reduce(
    (sum, { differs, share }) => sum + (differs(pair, other) ? share * share : 0),
    ANY_SHARE * ANY_SHARE,
  );
  const before = 2 * shares * range * range;
  let squares = 0;
  let count = 0;
  near.forEach((a, i) => {
    for (const b of near.slice(i + 1)) {
      if (kindOf(a, b) !== kind) continue;
      squares += (a.value - b.value) ** 2;
      count++;
    }
  });
  // Differences among the same few values are not as many as there are pairs of them.
  const seen = Math.min(count, near.length - 1);
  const mean = count === 0 ? 0 : squares / count;
  return (DIFFERENCES_BEFORE * before + seen * mean) / (DIFFERENCES_BEFORE + seen);
}
