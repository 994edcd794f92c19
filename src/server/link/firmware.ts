/** Asking a linked printer for its values, trying a change, saving it or putting it back: each step read back and compared. */
import { dialects } from "@/core/machine/dialects";
import { readIdentity } from "@/core/firmware/reports/identity";
import { firmwareFields, RecordDifference, recordDifferences } from "@/core/firmware/on-the-shelf";
import { valueFor } from "@/core/firmware/values";
import { isTaken, stageChange, valueLine } from "@/core/firmware/values/change";
import { compareSaved, planSave, SavedValue, Stray } from "@/core/firmware/values/saving";
import { readValues, ValueEntry } from "@/core/firmware/values/reading";
import type { Source, ValueChange, ValueSnapshot } from "@/core/link/state";
import { printerSchema } from "@/core/shelf/printer-schema";
import { snapshots, valueChanges } from "../db/firmware-values";
import { jobs } from "../db/jobs";
import { printers } from "../db/printers";
import { followShelf, openLinkOf } from "./hub";
import type { Link } from "./link";
import type { Exchange } from "./session";
import { missing, Refused } from "../refused";

/** A printer that says nothing for so long, beyond what the line itself takes, gives no answer any more. */
const ANSWER_WITHIN_MS = 8000;

/** Sends one line and waits; a 409 with a sentence if no answer came. */
async function ask(link: Link, line: string): Promise<Exchange> {
  const exchange = await link.session.exchange(line, "values", { withinMs: ANSWER_WITHIN_MS });
  if (exchange.outcome === "taken") return exchange;
  throw new Refused("conflict", `${link.printer.name} gave no answer to ${line}: ${exchange.outcome}.`);
}

/** Reads identity and values, and keeps the reading. */
export async function readFirmware(printerId: number): Promise<ValueSnapshot> {
  const link = openLinkOf(printerId);
  const identity = readIdentity((await ask(link, "M115")).answers);
  noteLost(link);
  // Switched on and told nothing since: what is in force is what it stores.
  const isStored = link.session.restarts > 0 && link.session.setBy.isEmpty;
  return snapshots.add(printerId, { ...(await currentValues(link)), identity }, isStored);
}

/** What was tried before the printer was switched off and on is lost. */
function noteLost({ printer, session }: Link): void {
  const { restartedAt } = session;
  if (restartedAt === null) return;
  for (const { id, state, changedAt } of valueChanges.list(printer.id)) {
    if (state === "tried" && changedAt < restartedAt) valueChanges.setState(id, "lost");
  }
}

async function currentValues(link: Link) {
  const { valueQuestions, feedsPerMinute } = dialects[link.printer.dialect];
  const lines: string[] = [];
  for (const question of valueQuestions) lines.push(...(await ask(link, question)).answers);
  const reading = readValues(lines, feedsPerMinute);
  if (reading.entries.length === 0) {
    throw new Refused(
      "conflict",
      `${link.printer.name} reported no values. Its dialect on the shelf is “${dialects[link.printer.dialect].label}”: does that fit?`,
    );
  }
  return reading;
}

/** Sends a changed value and reads it back. */
export async function tryValue(
  printerId: number,
  change: { id: string; value: number; why: string; confirmed: boolean },
): Promise<{ change: ValueChange; snapshot: ValueSnapshot; taken: boolean }> {
  const link = openLinkOf(printerId);
  if (link.job?.running) throw new Refused("conflict", "A job is running. Values are changed when it is through.");
  const { feedsPerMinute } = dialects[link.printer.dialect];
  const last = snapshots.list(printerId, 1)[0];
  const from = last?.entries.find(({ id }) => id === change.id)?.value ?? null;
  const staged = stageChange(change.id, from, change.value, { feedsPerMinute, tools: link.printer.tools });
  if (!staged.ok) throw new Refused("invalid", staged.message, { field: staged.field });
  if (staged.value.ask && !change.confirmed) throw new Refused("conflict", staged.value.ask, { field: "confirmed" });
  await ask(link, staged.value.line);
  const snapshot = snapshots.add(printerId, {
    ...(await currentValues(link)),
    identity: last?.identity ?? readIdentity([]),
  });
  const readBack = snapshot.entries.find(({ id }) => id === change.id);
  const taken = isTaken(change.id, change.value, readBack?.value, readBack?.decimals);
  const added = valueChanges.add(printerId, {
    valueId: change.id,
    from,
    to: change.value,
    line: staged.value.line,
    why: change.why,
    state: taken ? "tried" : "refused",
  });
  return { change: added, snapshot, taken };
}

/** A printer that starts anew when it saves is given so long to do it. */
const RESTART_MS = 10_000;
const LOOK_EVERY_MS = 50;

/** Waits until the printer has started anew: what is asked before would get no answer. */
async function restarted({ session }: Link, before: number): Promise<void> {
  const until = Date.now() + RESTART_MS;
  while (session.restarts === before && session.state === "open" && Date.now() < until) {
    await new Promise((resolve) => setTimeout(resolve, LOOK_EVERY_MS));
  }
}

/** The newest figure of every value that was tried and is neither saved nor put back. */
function triedOf(printerId: number): Map<string, number> {
  const tried = new Map<string, number>();
  const seen = new Set<string>();
  for (const { valueId, to, state } of valueChanges.list(printerId)) {
    if (seen.has(valueId)) continue;
    seen.add(valueId);
    if (state === "tried") tried.set(valueId, to);
  }
  return tried;
}

/**
 * What is stored, asked of the printer itself where it can load it; what was in force before is out of force then. Else what the last
 * reading of stored values says; null if there is none.
 */
async function storedValues(link: Link): Promise<ValueEntry[] | null> {
  const { reloadLine } = dialects[link.printer.dialect];
  if (reloadLine === null) return snapshots.lastStored(link.printer.id)?.entries ?? null;
  await ask(link, reloadLine);
  return (await currentValues(link)).entries;
}

/** Sends the figures that are another now; which they are. */
async function makeSo(link: Link, wanted: ReadonlyMap<string, number>, now: readonly ValueEntry[]): Promise<string[]> {
  const { feedsPerMinute } = dialects[link.printer.dialect];
  const sent: string[] = [];
  for (const { id, value, decimals } of now) {
    const figure = wanted.get(id);
    const found = valueFor(id);
    if (figure === undefined || !found || isTaken(id, figure, value, decimals)) continue;
    await ask(link, valueLine(found.definition, found.tool, figure, feedsPerMinute, link.printer.tools));
    sent.push(id);
  }
  return sent;
}

/** A value in force that nobody meant to save, and whose line set it. */
export interface FoundStray extends Stray {
  by: { source: Source; line: string; at: string; job: string | null } | null;
}

/**
 * Values in force that differ from what is stored and were not tried, each with where it comes from. The printer loads what it stores for a
 * moment; behind it everything is in force as it was. Besides, what of the record on the shelf differs from what would be stored.
 */
export async function findStrays(
  printerId: number,
): Promise<{ strays: FoundStray[]; isKnown: boolean; record: RecordDifference[] }> {
  const link = openLinkOf(printerId);
  if (link.job?.running) throw new Refused("conflict", "A job is running. Values are saved when it is through.");
  noteLost(link);
  const inForce = (await currentValues(link)).entries;
  const by = new Map(inForce.map(({ id }) => [id, link.session.setBy.of(id)]));
  const stored = await storedValues(link);
  const { meant, strays } = planSave(inForce, stored, triedOf(printerId));
  if (stored) {
    const asBefore = new Map(inForce.map(({ id, value }) => [id, value]));
    await makeSo(link, asBefore, dialects[link.printer.dialect].reloadLine === null ? inForce : stored);
    for (const [id, set] of by) if (set) link.session.setBy.note(id, set);
  }
  const lately = jobs.list(printerId);
  const nameAt = (atMs: number) =>
    lately.find(({ startedAt, endedAt }) => {
      const [from, to] = [Date.parse(startedAt), endedAt === null ? Infinity : Date.parse(endedAt)];
      return atMs >= from && atMs <= to + 1000;
    })?.name ?? null;
  return {
    strays: strays.map((stray) => {
      const set = by.get(stray.id);
      if (!set) return { ...stray, by: null };
      const { source, line, atMs } = set;
      const job = source === "job" ? nameAt(atMs) : null;
      return { ...stray, by: { source, line, at: new Date(atMs).toISOString(), job } };
    }),
    isKnown: stored !== null,
    record: recordDifferences(
      link.printer,
      inForce.map((entry) => ({ ...entry, value: meant.get(entry.id) ?? entry.value })),
    ),
  };
}

export interface Saved {
  snapshot: ValueSnapshot;
  /** What was meant and what is stored, for every value that was tried, kept or put back. */
  values: SavedValue[];
  /** Ids whose stored figure is not what was meant. */
  lost: string[];
  /** Strays that went back to what was stored. */
  putBack: string[];
  /** Fields of the record on the shelf that were changed with it. */
  record: RecordDifference[];
}

/**
 * Saves what was meant: what is stored, and over it what was tried, and those strays in `keep`. Then everything is loaded again and
 * compared. `takeOver` brings the printer's record on the shelf up to it in the same step.
 */
export async function saveValues(
  printerId: number,
  { keep = [], takeOver = false }: { keep?: readonly string[]; takeOver?: boolean } = {},
): Promise<Saved> {
  const link = openLinkOf(printerId);
  if (link.job?.running) throw new Refused("conflict", "A job is running. Values are saved when it is through.");
  noteLost(link);
  const { saveLine, reloadLine } = dialects[link.printer.dialect];
  const inForce = (await currentValues(link)).entries;
  const stored = await storedValues(link);
  const tried = triedOf(printerId);
  const { meant, strays } = planSave(inForce, stored, tried, new Set(keep));
  await makeSo(link, meant, reloadLine === null ? inForce : (stored ?? inForce));
  const restartsBefore = link.session.restarts;
  await ask(link, saveLine);
  if (reloadLine) await ask(link, reloadLine);
  else await restarted(link, restartsBefore);
  const identity = snapshots.list(printerId, 1)[0]?.identity ?? readIdentity([]);
  const snapshot = snapshots.add(printerId, { ...(await currentValues(link)), identity }, true);
  const all = compareSaved(meant, snapshot.entries);
  const lost = all.filter(({ same }) => !same).map(({ id }) => id);
  for (const { id, valueId, state } of valueChanges.list(printerId)) {
    if (state === "tried") valueChanges.setState(id, lost.includes(valueId) ? "refused" : "saved");
  }
  const strayIds = strays.map(({ id }) => id);
  const touched = new Set([...tried.keys(), ...strayIds, ...lost]);
  return {
    snapshot,
    values: all.filter(({ id }) => touched.has(id)),
    lost,
    putBack: strayIds.filter((id) => !keep.includes(id)),
    record: takeOver ? takeOverReading(printerId, snapshot) : [],
  };
}

/** Brings the printer's record on the shelf up to a reading; what was changed. All fields the reading fills count as the firmware's own. */
export function takeOverReading(printerId: number, { entries, takenAt }: ValueSnapshot): RecordDifference[] {
  const printer = printers.get(printerId);
  if (!printer) throw missing(`There is no printer ${printerId}.`);
  const differences = recordDifferences(printer, entries);
  const { id: _, version: _v, createdAt: _c, updatedAt: _u, ...record } = printer;
  const told = Object.fromEntries(differences.map(({ field, told: value }) => [field, value]));
  const own = Object.fromEntries(firmwareFields(entries).map(({ field }) => [field, takenAt]));
  const changed = printers.change(
    printerId,
    printerSchema.parse({ ...record, ...told, firmwareOwn: { ...record.firmwareOwn, ...own } }),
  );
  if (changed) followShelf(changed);
  return differences;
}

/** Sends the old figure of a change that was tried. */
export async function putBack(printerId: number, changeId: number): Promise<ValueSnapshot> {
  const change = valueChanges.get(changeId);
  if (!change || change.printerId !== printerId) throw new Refused("missing", "There is no such change.");
  if (change.from === null) throw new Refused("conflict", "The old value is unknown, so it can't be restored.");
  const { snapshot } = await tryValue(printerId, {
    id: change.valueId,
    value: change.from,
    why: "put back",
    confirmed: true,
  });
  valueChanges.setState(valueChanges.list(printerId, 1)[0].id, "put back");
  valueChanges.setState(changeId, "put back");
  return snapshot;
}

/** Sends every figure of an earlier reading that is another now; nothing is saved. */
export async function sendBack(
  printerId: number,
  snapshotId: number,
): Promise<{ snapshot: ValueSnapshot; sent: number }> {
  const wanted = snapshots.get(snapshotId);
  if (!wanted || wanted.printerId !== printerId) throw new Refused("missing", "There is no such reading.");
  let snapshot = await readFirmware(printerId);
  let sent = 0;
  for (const { id, value } of wanted.entries) {
    const now = snapshot.entries.find((entry) => entry.id === id);
    if (now === undefined || isTaken(id, value, now.value, now.decimals)) continue;
    ({ snapshot } = await tryValue(printerId, {
      id,
      value,
      why: `reading of ${wanted.takenAt.slice(0, 10)} sent back`,
      confirmed: true,
    }));
    sent++;
  }
  return { snapshot, sent };
}
