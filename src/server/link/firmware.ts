/** Asking a linked printer for its values, trying a change, saving it or putting it back: each step read back and compared. */
import { dialects } from "@/core/machine/dialects";
import { readIdentity } from "@/core/firmware/reports/identity";
import { isTaken, stageChange } from "@/core/firmware/values/change";
import { readValues } from "@/core/firmware/values/reading";
import type { ValueChange, ValueSnapshot } from "@/core/link/state";
import { snapshots, valueChanges } from "../db/firmware-values";

import { openLinkOf } from "./hub";
import type { Link } from "./link";
import type { Exchange } from "./session";
import { Refused } from "../refused";

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
  return snapshots.add(printerId, { ...(await currentValues(link)), identity });
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

/** Saves what is in force, loads it again, and compares. */
export async function saveValues(printerId: number): Promise<{ snapshot: ValueSnapshot; lost: string[] }> {
  const link = openLinkOf(printerId);
  if (link.job?.running) throw new Refused("conflict", "A job is running. Values are saved when it is through.");
  const before = await currentValues(link);
  const { saveLine, reloadLine } = dialects[link.printer.dialect];
  const restartsBefore = link.session.restarts;
  await ask(link, saveLine);
  if (reloadLine) await ask(link, reloadLine);
  else await restarted(link, restartsBefore);
  const identity = snapshots.list(printerId, 1)[0]?.identity ?? readIdentity([]);
  const snapshot = snapshots.add(printerId, { ...(await currentValues(link)), identity });
  const after = new Map(snapshot.entries.map((entry) => [entry.id, entry]));
  const lost = before.entries
    .filter(({ id, value }) => !isTaken(id, value, after.get(id)?.value, after.get(id)?.decimals))
    .map(({ id }) => id);
  for (const { id, valueId, state } of valueChanges.list(printerId)) {
    if (state === "tried") valueChanges.setState(id, lost.includes(valueId) ? "refused" : "saved");
  }
  return { snapshot, lost };
}

/** Sends the old figure of a change that was tried. */
export async function putBack(printerId: number, changeId: number): Promise<ValueSnapshot> {
  const change = valueChanges.get(changeId);
  if (!change || change.printerId !== printerId) throw new Refused("missing", "There is no such change.");
  if (change.from === null) throw new Refused("conflict", "The old figure is not known, so it cannot be put back.");
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
