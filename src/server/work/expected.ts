/** What earlier spools lead one to expect of a pair, from all that is kept on this bench. */
import { SettingKey } from "@/core/settings";
import { Expected, ExpectedRanges, expectedOf, KnownPair } from "@/core/trials/expected";
import { kept } from "../db/kept";
import { readPreferences } from "../db/preferences";
import { printers } from "../db/printers";
import { spools } from "../db/spools";

/** Values that count, of other pairs that are on the shelf, by setting; what was only taken over was found nowhere. */
function knownBeside(printerId: number, spoolId: number): Map<SettingKey, KnownPair[]> {
  const onShelf = { printers: byId(printers.list()), spools: byId(spools.list()) };
  const known = new Map<SettingKey, KnownPair[]>();
  for (const one of kept.all()) {
    if (one.carriedFrom !== null || (one.printerId === printerId && one.spoolId === spoolId)) continue;
    const printer = onShelf.printers.get(one.printerId);
    const spool = onShelf.spools.get(one.spoolId);
    if (!printer || !spool) continue;
    const pair = { printerId: one.printerId, spoolId: one.spoolId, printer, spool, value: one.value };
    known.set(one.setting, [...(known.get(one.setting) ?? []), pair]);
  }
  return known;
}

const byId = <T extends { id: number }>(all: readonly T[]) => new Map(all.map((one) => [one.id, one]));

/** What is expected of each setting of a pair; a setting that nothing is known of is left out, and all where nothing is to be expected. */
export function expectedFor(printerId: number, spoolId: number): Partial<Record<SettingKey, Expected>> {
  const printer = printers.get(printerId);
  const spool = spools.get(spoolId);
  if (!printer || !spool || !readPreferences().expectsAlike) return {};
  const found = [...knownBeside(printerId, spoolId)].flatMap(([setting, known]) => {
    const expected = expectedOf({ printer, spool }, setting, known);
    return expected ? [[setting, expected]] : [];
  });
  return Object.fromEntries(found) as Partial<Record<SettingKey, Expected>>;
}

/** The same without what each follows from: what a trial says of its first round. */
export function rangesFor(printerId: number, spoolId: number): ExpectedRanges {
  const all = Object.entries(expectedFor(printerId, spoolId)) as [SettingKey, Expected][];
  return Object.fromEntries(all.map(([setting, { because: _, ...range }]) => [setting, range]));
}
