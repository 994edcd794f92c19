/** What a bench knows of a setting altogether: all kept values of all pairs, what they differ by, which are out of line, and which drifted. */
import { studentBeyond } from "../reading/belief/chance";
import { finestStep } from "../reading/say";
import { SettingKey, sayValue, settingFor, settingKeys } from "../settings";
import type { Printer } from "../shelf/printer";
import { spoolTitle } from "../shelf/spool-title";
import type { Spool } from "../shelf/spool";
import { expectedOfEach, KnownPair } from "../trials/expected";
import type { KeptValue } from "../trials/kept";
import { plainNumber, roundTo } from "../units";
import { csvOf } from "./csv";

/** A kept value with the pair it was found for. */
export interface KnownValue extends Pick<
  KeptValue,
  "id" | "printerId" | "spoolId" | "value" | "fromValue" | "toValue" | "trialId" | "keptAt"
> {
  printer: string;
  spool: string;
  material: string;
  maker: string;
  colourHex: string;
  nozzleMm: number;
}

export const aspects = ["material", "maker", "printer", "nozzle"] as const;
export type KnownAspect = (typeof aspects)[number];

export const groupOf: Record<KnownAspect, (one: KnownValue) => string> = {
  material: ({ material }) => material,
  maker: ({ maker }) => maker || "no maker",
  printer: ({ printer }) => printer,
  nozzle: ({ nozzleMm }) => `${plainNumber(nozzleMm)} mm nozzle`,
};

export interface Known {
  setting: SettingKey;
  label: string;
  unit: string;
  decimals: number;
  /** By material, then rising. */
  values: KnownValue[];
  /** What values differ by, the strongest first: the share of all differences that lies between the groups. */
  differs: { by: KnownAspect; share: number }[];
  /** Values that the others do not lead one to expect, by id. */
  outOfLine: { id: number; why: string }[];
  /** Pairs and printers on which a value moved with time. */
  drifted: { printerId: number; spoolId: number | null; why: string }[];
}

/** Printers and spools by their ids. */
interface Shelf {
  printers: ReadonlyMap<number, Printer>;
  spools: ReadonlyMap<number, Spool>;
}

/** Fewer others than this lead one to expect nothing that a value could be out of line with. */
const FEWEST_OTHERS = 3;
/** A share smaller than this says nothing. */
const LEAST_SHARE = 0.05;

/**
 * @param counting the newest value of each setting of each pair
 * @param everything all that was ever kept, oldest first; what was only taken over was found nowhere and is left out
 */
export function knownOf(counting: readonly KeptValue[], everything: readonly KeptValue[], shelf: Shelf): Known[] {
  const found = counting.filter(({ carriedFrom }) => carriedFrom === null);
  return settingKeys.flatMap((setting): Known[] => {
    const own = found.filter((one) => one.setting === setting);
    const values = own.flatMap((one) => knownValue(one, shelf)).sort(byMaterialThenValue);
    if (values.length === 0) return [];
    const { label, unit, decimals } = settingFor(setting);
    return [
      {
        setting,
        label,
        unit,
        decimals,
        values,
        differs: differencesIn(values),
        outOfLine: outOfLine(setting, values, shelf),
        drifted: drifted(setting, everything, shelf),
      },
    ];
  });
}

function knownValue(one: KeptValue, { printers, spools }: Shelf): KnownValue[] {
  const [printer, spool] = [printers.get(one.printerId), spools.get(one.spoolId)];
  if (!printer || !spool) return [];
  const { id, printerId, spoolId, value, fromValue, toValue, trialId, keptAt } = one;
  return [
    {
      ...{ id, printerId, spoolId, value, fromValue, toValue, trialId, keptAt },
      printer: printer.name,
      spool: spoolTitle(spool),
      material: spool.material,
      maker: spool.maker,
      colourHex: spool.colourHex,
      nozzleMm: one.nozzleMm ?? printer.nozzleMm,
    },
  ];
}

const byMaterialThenValue = (a: KnownValue, b: KnownValue) =>
  a.material.localeCompare(b.material) || a.value - b.value || a.id - b.id;

/**
 * The share of a variance that lies between groups rather than in them: Hays' ω² = (SSb − (k − 1)·MSw) / (SSt + MSw), which, unlike the plain
 * share, is about 0 where groups make no difference (W. L. Hays, "Statistics for Psychologists", 1963). Null where it cannot be told.
 */
export function shareBetween(groups: readonly (readonly number[])[]): number | null {
  const all = groups.flat();
  const free = all.length - groups.length;
  if (groups.length < 2 || free < 1) return null;
  const meanOf = (values: readonly number[]) => values.reduce((sum, one) => sum + one, 0) / values.length;
  const squares = (values: readonly number[], around: number) =>
    values.reduce((sum, one) => sum + (one - around) ** 2, 0);
  const whole = squares(all, meanOf(all));
  const within = groups.reduce((sum, group) => sum + squares(group, meanOf(group)), 0);
  const meanWithin = within / free;
  return whole + meanWithin === 0 ? 0 : (whole - within - (groups.length - 1) * meanWithin) / (whole + meanWithin);
}

function differencesIn(values: readonly KnownValue[]): Known["differs"] {
  return aspects
    .flatMap((by) => {
      const groups = new Map<string, number[]>();
      for (const one of values) {
        const name = groupOf[by](one);
        groups.set(name, [...(groups.get(name) ?? []), one.value]);
      }
      const share = shareBetween([...groups.values()]);
      return share !== null && share >= LEAST_SHARE ? [{ by, share: roundTo(share, 2) }] : [];
    })
    .sort((a, b) => b.share - a.share);
}

/** Values beyond what the other pairs lead one to expect, where there are enough of them. */
function outOfLine(
  setting: SettingKey,
  values: readonly KnownValue[],
  { printers, spools }: Shelf,
): Known["outOfLine"] {
  const pairs = values.map(({ printerId, spoolId, value, nozzleMm }): KnownPair => ({
    printerId,
    spoolId,
    // As it was when the value was found.
    printer: { ...printers.get(printerId)!, nozzleMm },
    spool: spools.get(spoolId)!,
    value,
  }));
  const expectedOfAll = expectedOfEach(setting, pairs);
  return values.flatMap(({ id, value }, i) => {
    const expected = expectedOfAll[i];
    if (!expected || expected.because.length < FEWEST_OTHERS) return [];
    if (value >= expected.fromValue && value <= expected.toValue) return [];
    const range = `${plainNumber(expected.fromValue, 3)} to ${sayValue(setting, expected.toValue)}`;
    return [{ id, why: `The other ${expected.because.length} lead one to expect ${range}.` }];
  });
}

/** So surely must the mean of several changes differ from none: 9 of 10 by Student's t. */
const SURELY = 0.1;
const MONTH_MS = (365.25 / 12) * 86_400_000;

/** What was found anew for the same pair with the same nozzle, and differs by more than both ranges allow; and what all pairs of a printer do. */
function drifted(setting: SettingKey, everything: readonly KeptValue[], { printers, spools }: Shelf): Known["drifted"] {
  const chains = new Map<string, KeptValue[]>();
  for (const one of everything) {
    if (one.setting !== setting || one.carriedFrom !== null) continue;
    const key = `${one.printerId} ${one.spoolId} ${one.nozzleMm}`;
    chains.set(key, [...(chains.get(key) ?? []), one]);
  }
  const changes = [...chains.values()].flatMap((chain) => {
    const [first, last] = [chain[0], chain[chain.length - 1]];
    const [printer, spool] = [printers.get(first.printerId), spools.get(first.spoolId)];
    return chain.length > 1 && printer && spool ? [{ first, last, printer, spool, by: last.value - first.value }] : [];
  });
  const least = finestStep(setting);
  const ofPairs = changes.flatMap(({ first, last, printer, spool, by }): Known["drifted"] => {
    // Where nobody said how sure the first was, a usual step is beyond it.
    const { step } = settingFor(setting);
    const beyond =
      by > 0
        ? last.value > (first.toValue ?? first.value + step)
        : last.value < (first.fromValue ?? first.value - step);
    if (!beyond || Math.abs(by) < least) return [];
    const from = `${sayValue(setting, first.value)} to ${sayValue(setting, last.value)}`;
    return [
      {
        printerId: first.printerId,
        spoolId: first.spoolId,
        why: `${spoolTitle(spool)} on ${printer.name} went from ${from} ${sayMonths(first, last)}, with the same nozzle.`,
      },
    ];
  });
  const ofPrinters = [...new Set(changes.map(({ first }) => first.printerId))].flatMap(
    (printerId): Known["drifted"] => {
      const own = changes.filter(({ first }) => first.printerId === printerId);
      const mean = own.reduce((sum, { by }) => sum + by, 0) / own.length;
      if (own.length < 2 || Math.abs(mean) < least) return [];
      const variance = own.reduce((sum, { by }) => sum + (by - mean) ** 2, 0) / (own.length - 1);
      // Values are no finer than a step: its own spread is part of every change.
      const error = Math.sqrt((variance + least ** 2 / 12) / own.length);
      if (Math.abs(mean) <= studentBeyond(SURELY, own.length - 1) * error) return [];
      const way = `${sayValue(setting, Math.abs(mean))} ${mean > 0 ? "higher" : "lower"}`;
      return [
        {
          printerId,
          spoolId: null,
          why: `On ${own[0].printer.name} all ${own.length} that were asked again came out ${way} on the whole: look at its nozzle and its heater.`,
        },
      ];
    },
  );
  return [...ofPrinters, ...ofPairs];
}

function sayMonths(first: KeptValue, last: KeptValue): string {
  const months = Math.round((Date.parse(last.keptAt) - Date.parse(first.keptAt)) / MONTH_MS);
  return months < 1 ? "within a month" : months === 1 ? "in a month" : `in ${months} months`;
}

const HEAD = ["setting", "value", "unit", "from", "to", "printer", "nozzle mm", "spool", "material", "maker", "kept"];

/** All of it as CSV (RFC 4180). */
export function knownCsv(known: readonly Known[]): string {
  const rows = known.flatMap(({ label, unit, values }) =>
    values.map((one) => [
      label,
      plainNumber(one.value, 6),
      unit,
      one.fromValue === null ? "" : plainNumber(one.fromValue, 6),
      one.toValue === null ? "" : plainNumber(one.toValue, 6),
      one.printer,
      plainNumber(one.nozzleMm),
      one.spool,
      one.material,
      one.maker,
      one.keptAt,
    ]),
  );
  return csvOf([HEAD, ...rows]);
}
