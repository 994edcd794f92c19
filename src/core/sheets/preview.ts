/** What a formula comes to while it is typed, and which names it may use where it stands. */
import { Result, succeed } from "../result";
import { rehearsedBands } from "./bands";
import { constantNames, functionNames } from "./formula";
import { rowAt, RowPath } from "./rows";
import { given, Scope } from "./scope";
import type { Expr, Item, Repeat, Sheet } from "./sheet";

export interface NameOffered {
  name: string;
  says: string;
  isFunction: boolean;
}

const givenSays: Record<(typeof given)[number], string> = {
  t: "along the stroke, 0 to 1",
  a: "angle, rad",
  z: "height, mm",
  layer: "layer, from 0",
  value: "the band’s value",
  bands: "how many bands",
};

/** The repeats around a row, outermost first. */
function repeatsAround(items: readonly Item[], [first, ...rest]: RowPath): Repeat[] {
  const item = items[first];
  if (!item || rest.length === 0 || !("items" in item)) return [];
  return [...(item.kind === "repeat" ? [item] : []), ...repeatsAround(item.items, rest)];
}

/** Names that a formula in a row may use; `null` for one that stands outside of all rows. */
export function namesAt(sheet: Sheet, path: RowPath | null): NameOffered[] {
  const counters = path ? repeatsAround(sheet.items, path).flatMap(({ counter }) => counter ?? []) : [];
  return [
    ...sheet.figures.map(({ name, unit = "" }) => ({
      name,
      says: `figure${unit ? `, ${unit}` : ""}`,
      isFunction: false,
    })),
    ...counters.map((name) => ({ name, says: "counter, from 0", isFunction: false })),
    ...(path ? given.map((name) => ({ name, says: givenSays[name], isFunction: false })) : []),
    ...constantNames.map((name) => ({ name, says: "constant", isFunction: false })),
    ...functionNames.map((name) => ({
      name,
      says: name === "band" ? "value of a band" : "function",
      isFunction: true,
    })),
  ];
}

/** Heights a climbing wall runs between; null for every other row. */
function climbOf(sheet: Sheet, path: RowPath, scope: Scope): { from: number; to: number } | null {
  const row = rowAt(sheet.items, path);
  if (row?.kind !== "climb") return null;
  const figure = (text: Expr) => {
    const compiled = scope.compile(text, "");
    return compiled.ok ? compiled.value.at(scope.slots) : 0;
  };
  return { from: figure(row.fromMm), to: figure(row.toMm) };
}

const SAMPLES = 24;

/** The least and the most a formula comes to in its row, looked at in 25 places; refused with what is wrong with it. */
export function previewOf(sheet: Sheet, path: RowPath | null, text: Expr): Result<{ least: number; most: number }> {
  const bands = rehearsedBands(sheet, 10);
  const plain = Scope.of(sheet.figures, (bands.ok ? bands.value : null) ?? { edgesMm: [0], values: [1] });
  if (!plain.ok) return plain;
  const repeats = path ? repeatsAround(sheet.items, path) : [];
  let scope = plain.value;
  const counts: { slot: number; last: number; along: Repeat["along"]; apart: number }[] = [];
  for (const { counter, count = 2, spacingMm = 0, along } of repeats) {
    const [often, apart] = [scope.compile(count, ""), scope.compile(spacingMm, "")];
    scope = scope.with(counter);
    const figure = (one: typeof often) => (one.ok ? one.value.at(scope.slots) : 1);
    const slot = counter === undefined ? -1 : scope.names.get(counter)!;
    counts.push({ slot, last: Math.max(0, Math.round(figure(often)) - 1), along, apart: figure(apart) });
  }
  const formula = scope.compile(text, "");
  if (!formula.ok) return formula;
  const { slots } = scope;
  const climbs = path ? climbOf(sheet, path, scope) : null;
  let [least, most] = [Infinity, -Infinity];
  for (let i = 0; i <= SAMPLES; i++) {
    const share = i / SAMPLES;
    let z = 0;
    for (const { slot, last, along, apart } of counts) {
      if (slot >= 0) slots[slot] = Math.round(share * last);
      if (along === "z") z += Math.round(share * last) * apart;
    }
    scope.set("t", share);
    scope.set("a", 2 * Math.PI * share);
    scope.set("z", climbs ? climbs.from + (climbs.to - climbs.from) * share : z);
    const value = formula.value.at(slots);
    if (value < least) least = value;
    if (value > most) most = value;
    if (Number.isNaN(value)) return succeed({ least: NaN, most: NaN });
  }
  return succeed({ least, most });
}
