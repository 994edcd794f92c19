/** Everything of another bench, read in: all of it or nothing, in slices that hold nobody up. */
import { SettingKey, settingFor, SettingValues } from "@/core/settings";
import { settingValuesSchema } from "@/core/settings/values-schema";
import { spoolTitle } from "@/core/shelf/spool-title";
import type { Bundle } from "@/core/values/bundle-schema";
import { ARRIVING, arriving } from "../db/arriving";
import { database } from "../db/connection";
import { kept, NewKept } from "../db/kept";
import { printers } from "../db/printers";
import type { ShelfTable } from "../db/shelf-table";
import { spools } from "../db/spools";
import { TrialFields, trials } from "../db/trials";
import { Refused } from "../refused";
import { runTask } from "../tasks/pool";
import { firstTrial, RoundBasis } from "./trials";
import { Turns } from "./turns";

export interface Imported {
  printers: number;
  spools: number;
  kept: number;
  trials: number;
}

// One at a time: what arrives is shown as a whole.
const shared = globalThis as { cucharaImporting?: boolean };

/** Reads the text of a bench in; refused with the first problem's sentence and field. */
export async function importText(text: string, signal: AbortSignal): Promise<Imported> {
  const read = await runTask("readBundle", { text }, { signal });
  if (!read.ok) throw new Refused("invalid", read.message, { field: read.field });
  return importBundle(read.value, signal);
}

/**
 * Reads everything of another bench in. Printers and spools of the same name are the same; what is here already stays as it is. What was
 * kept is laid in by its date, so that the newest of both counts.
 */
export async function importBundle(bundle: Bundle, signal?: AbortSignal): Promise<Imported> {
  for (const { setting, value } of bundle.kept) {
    const checked = settingValuesSchema.safeParse({ [setting]: value });
    if (!checked.success) {
      throw new Refused("invalid", `${settingFor(setting).label}: ${checked.error.issues[0].message}`, {
        field: "kept",
      });
    }
  }
  if (shared.cucharaImporting) throw new Refused("busy", "A bench is being read in already. Wait until it is done.");
  shared.cucharaImporting = true;
  try {
    const done = await arrive(bundle, new Turns(), signal);
    arriving.show(database());
    return done;
  } catch (error) {
    arriving.drop(database());
    throw error;
  } finally {
    shared.cucharaImporting = false;
  }
}

async function arrive(bundle: Bundle, turns: Turns, signal?: AbortSignal): Promise<Imported> {
  const [printerRows, spoolRows] = [
    placesOf(bundle.printers, printers, ({ name }) => name),
    placesOf(bundle.spools, spools, spoolTitle),
  ];
  for (const rows of [printerRows, spoolRows]) await inTransactions(rows.fresh, (add) => add(), turns, signal);
  const pairOf = ({ printer, spool }: { printer: number; spool: number }) => ({
    printerId: printerRows.ids[printer],
    spoolId: spoolRows.ids[spool],
  });
  const sayKept = ({ printerId, spoolId, setting, keptAt, value }: NewKept) =>
    JSON.stringify([printerId, spoolId, setting, keptAt, value]);
  const mine = new Set<string>();
  await turns.each(kept.everything(), (one) => mine.add(sayKept(one)), signal);
  const newKept = bundle.kept
    .map(({ printer, spool, ...value }): NewKept => ({ ...pairOf({ printer, spool }), ...value, trialId: null }))
    .filter((value) => !mine.has(sayKept(value)));
  await inTransactions(newKept, (value) => void kept.insert(value, ARRIVING), turns, signal);

  // What is here already stays as it is: a known printer is the shelf's own.
  const [shelfPrinters, shelfSpools] = [
    new Map(printers.list().map((printer) => [printer.id, printer])),
    new Map(spools.list().map((spool) => [spool.id, spool])),
  ];
  const keptOf = keptTogether([...kept.everything(), ...newKept]);
  const sayTrial = (one: { printerId: number; spoolId: number; name?: string }) =>
    JSON.stringify([one.printerId, one.spoolId, one.name]);
  const here = new Set(trials.names().map(sayTrial));
  const newTrials: TrialFields[] = [];
  await turns.each(
    bundle.trials,
    ({ printer, spool, ...trial }) => {
      const pair = pairOf({ printer, spool });
      if (here.has(sayTrial({ ...pair, name: trial.name }))) return;
      const basis: RoundBasis = {
        printer: shelfPrinters.get(pair.printerId) ?? bundle.printers[printer],
        spool: shelfSpools.get(pair.spoolId) ?? bundle.spools[spool],
        kept: keptOf(pair.printerId, pair.spoolId),
        carried: {},
        expected: {},
      };
      const fields = firstTrial({ ...trial, ...pair }, null, basis);
      here.add(sayTrial(fields));
      newTrials.push(fields);
    },
    signal,
  );
  await inTransactions(newTrials, (fields) => void trials.insert(fields, ARRIVING), turns, signal);
  return {
    printers: printerRows.fresh.length,
    spools: spoolRows.fresh.length,
    kept: newKept.length,
    trials: newTrials.length,
  };
}

/** Writes rows, so many in one transaction as a slice has time for. */
async function inTransactions<T>(rows: readonly T[], write: (row: T) => void, turns: Turns, signal?: AbortSignal) {
  let next = 0;
  while (next < rows.length) {
    database().transaction(() => {
      do write(rows[next++]);
      while (next < rows.length && !turns.isLong);
    })();
    await turns.next(signal);
  }
}

/** Ids of records as they are here, in the order given; what is not known by its name is among `fresh`, and has its id once it is added. */
function placesOf<T>(
  given: readonly T[],
  shelf: Pick<ShelfTable<T>, "list" | "insert">,
  nameOf: (record: T) => string,
): { ids: number[]; fresh: (() => void)[] } {
  const known = new Map(shelf.list().map((record) => [nameOf(record), record.id]));
  const ids: number[] = [];
  const firstOf = new Map<string, number>();
  const fresh: (() => void)[] = [];
  given.forEach((record, place) => {
    const name = nameOf(record);
    const id = known.get(name);
    if (id !== undefined) {
      ids[place] = id;
      return;
    }
    const first = firstOf.get(name) ?? place;
    if (first === place) {
      firstOf.set(name, place);
      fresh.push(() => {
        ids[place] = shelf.insert(record, ARRIVING);
        given.forEach((other, at) => {
          if (ids[at] === undefined && nameOf(other) === name) ids[at] = ids[place];
        });
      });
    }
  });
  return { ids, fresh };
}

/** What counts for each pair once all of it is here: the newest of each setting. */
function keptTogether(values: readonly NewKept[]): (printerId: number, spoolId: number) => SettingValues {
  const newest = new Map<string, Map<SettingKey, NewKept>>();
  for (const value of values) {
    const pair = `${value.printerId} ${value.spoolId}`;
    const ofPair = newest.get(pair) ?? new Map<SettingKey, NewKept>();
    newest.set(pair, ofPair);
    const before = ofPair.get(value.setting);
    if (!before || (value.keptAt ?? "") >= (before.keptAt ?? "")) ofPair.set(value.setting, value);
  }
  return (printerId, spoolId) =>
    Object.fromEntries(
      [...(newest.get(`${printerId} ${spoolId}`) ?? [])].map(([setting, { value }]) => [setting, value]),
    );
}
