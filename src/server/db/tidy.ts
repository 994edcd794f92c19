/**
 * What is kept of the past, and no more: the one place where its bounds stand. Each yields between slices small enough to hold
 * nothing up.
 * - a job's lines are whole while it runs and for the last `WHOLE_JOBS` of a printer, then its summary: the first and last lines, and
 *   everything unusual; the heights it reached stand with the job
 * - temperatures thin with age: all of the last hour, one a minute for a day, then one in ten minutes
 * - what is older than the user's own time goes, and of what is left the oldest beyond `MOST_LINES`
 * - what was removed goes after `REMOVED_DAYS`, and the disk gets its room back
 */
import { REMOVED_DAYS, throwRecordsAway } from "./bin";
import { database, quickDatabase } from "./connection";
import { LOOSE_MS, throwResultsAway } from "./edit-results";
import { dayOf, linkEvents } from "./link-events";
import { readPreferences } from "./preferences";

export const WHOLE_JOBS = 3;
/** Lines of a job that stay at its beginning and at its end. */
export const KEPT_ENDS = 40;
export const MOST_LINES = 500_000;
/** Rows looked at, chunks of a file thrown away, pages given back, in one slice: some milliseconds each. */
const ROWS = 4000;
const CHUNKS = 4;
const PAGES = 400;

const HOUR_MS = 3_600_000;
const DAY_MS = 24 * HOUR_MS;
const thinned = [
  { fromAgeMs: DAY_MS, untilAgeMs: 100 * 365 * DAY_MS, everyMs: 600_000 },
  { fromAgeMs: HOUR_MS, untilAgeMs: DAY_MS, everyMs: 60_000 },
];

/** Everything that is due at `nowMs`. */
export function* tidySlices(nowMs: number): Generator<void, void> {
  const touched = new Set<string>();
  yield* throwOldTalkAway(nowMs, touched);
  yield* thinJobs(touched);
  for (const age of thinned)
    yield* thinTemperatures(nowMs - age.untilAgeMs, nowMs - age.fromAgeMs, age.everyMs, touched);
  yield* countAgain(touched);
  yield* throwFilesAway(nowMs);
  yield* throwResultsAway(2, { before: new Date(nowMs - LOOSE_MS).toISOString() });
  yield* throwPhotosAway(nowMs);
  yield* throwRecordsAway(new Date(nowMs - REMOVED_DAYS * DAY_MS).toISOString());
  yield* giveRoomBack();
}

interface Looked {
  id: number;
  printerId: number;
  atMs: number;
  direction: string;
}

/** Deletes the events with ids in [from, to) that `where` and `isDoomed` pick, a slice at a time; notes their days. */
function* deleteBetween(
  { from, to }: { from: number; to: number },
  where: string,
  args: unknown[],
  touched: Set<string>,
  isDoomed: (event: Looked) => boolean = () => true,
): Generator<void> {
  const next = database().prepare(
    "SELECT MAX(id) AS id FROM (SELECT id FROM link_events WHERE id >= ? AND id < ? ORDER BY id LIMIT ?)",
  );
  const look = database().prepare(
    `SELECT id, printer_id AS printerId, at_ms AS atMs, direction FROM link_events WHERE id >= ? AND id <= ? AND ${where} ORDER BY id`,
  );
  const remove = quickDatabase().prepare("DELETE FROM link_events WHERE id IN (SELECT value FROM json_each(?))");
  for (let at = from; at < to;) {
    const { id: last } = next.get(at, to, ROWS) as { id: number | null };
    if (last === null) return;
    const doomed = (look.all(at, last, ...args) as Looked[]).filter(isDoomed);
    for (const { printerId, atMs } of doomed) touched.add(`${printerId} ${dayOf(atMs)}`);
    if (doomed.length > 0) remove.run(JSON.stringify(doomed.map(({ id }) => id)));
    at = last + 1;
    yield;
  }
}

function* throwOldTalkAway(nowMs: number, touched: Set<string>): Generator<void> {
  const oldest = (database().prepare("SELECT MIN(id) AS id FROM link_events").get() as { id: number | null }).id;
  if (oldest === null) return;
  const to = linkEvents.firstIdFrom(nowMs - readPreferences().talkDays * DAY_MS);
  yield* deleteBetween({ from: oldest, to }, "1", [], touched);
  const most = database().prepare("SELECT id FROM link_events ORDER BY id DESC LIMIT 1 OFFSET ?").get(MOST_LINES) as
    { id: number } | undefined;
  if (most) yield* deleteBetween({ from: oldest, to: most.id + 1 }, "1", [], touched);
}

/** An answer that says nothing but that a line was taken. */
const USUAL = "(direction = 'out' OR text IN ('ok', 'ok ') OR text LIKE 'ok N%' OR text LIKE 'ok P%')";

function* thinJobs(touched: Set<string>): Generator<void> {
  const due = database()
    .prepare(
      `SELECT id FROM jobs j WHERE thinned = 0 AND state NOT IN ('running', 'paused') AND
         (SELECT COUNT(*) FROM jobs WHERE printer_id = j.printer_id AND id > j.id) >= ? ORDER BY id LIMIT 50`,
    )
    .all(WHOLE_JOBS) as { id: number }[];
  const edge = (order: "ASC" | "DESC") =>
    database().prepare(`SELECT id FROM link_events WHERE job_id = ? ORDER BY id ${order} LIMIT 1 OFFSET ?`);
  for (const { id } of due) {
    const first = edge("ASC").get(id, KEPT_ENDS) as { id: number } | undefined;
    const last = edge("DESC").get(id, KEPT_ENDS) as { id: number } | undefined;
    if (first && last && first.id < last.id) {
      yield* deleteBetween({ from: first.id, to: last.id + 1 }, `job_id = ? AND ${USUAL}`, [id], touched);
    }
    quickDatabase().prepare("UPDATE jobs SET thinned = 1 WHERE id = ?").run(id);
    yield;
  }
}

/** Of the temperatures asked for between two moments one in so long stays. */
function* thinTemperatures(fromMs: number, toMs: number, everyMs: number, touched: Set<string>): Generator<void> {
  // What was thinned before is few: looking at it again costs little.
  const between = { from: linkEvents.firstIdFrom(fromMs), to: linkEvents.firstIdFrom(toMs) };
  const kept = new Map<string, number>();
  yield* deleteBetween(between, "source = 'watch'", [], touched, ({ printerId, direction, atMs }) => {
    const span = Math.floor(atMs / everyMs);
    const isDoomed = kept.get(`${printerId} ${direction}`) === span;
    kept.set(`${printerId} ${direction}`, span);
    return isDoomed;
  });
}

/** Days that lost lines say how many are left. */
function* countAgain(touched: Set<string>): Generator<void> {
  for (const key of touched) {
    const [printer, day] = key.split(" ");
    const printerId = Number(printer);
    const from = new Date(`${day}T00:00:00`);
    const to = new Date(from);
    to.setDate(to.getDate() + 1);
    let at = linkEvents.firstIdFrom(from.getTime());
    const end = linkEvents.firstIdFrom(to.getTime());
    const next = database().prepare(
      `SELECT COUNT(*) AS lines, IFNULL(SUM(length(text)), 0) AS bytes, MAX(id) AS last FROM
         (SELECT id, text FROM link_events WHERE printer_id = ? AND id >= ? AND id < ? ORDER BY id LIMIT ?)`,
    );
    let lines = 0;
    let bytes = 0;
    for (;;) {
      const part = next.get(printerId, at, end, ROWS) as { lines: number; bytes: number; last: number | null };
      lines += part.lines;
      bytes += part.bytes;
      if (part.last === null) break;
      at = part.last + 1;
      yield;
    }
    const write =
      lines === 0
        ? quickDatabase().prepare("DELETE FROM link_days WHERE printer_id = ? AND day = ?").bind(printerId, day)
        : quickDatabase()
            .prepare("UPDATE link_days SET lines = ?, bytes = ? WHERE printer_id = ? AND day = ?")
            .bind(lines, bytes, printerId, day);
    write.run();
    yield;
  }
}

function* throwFilesAway(nowMs: number): Generator<void> {
  const before = new Date(nowMs - REMOVED_DAYS * DAY_MS).toISOString();
  const gone = database().prepare("SELECT id FROM files WHERE removed_at < ?").all(before) as { id: number }[];
  const part = quickDatabase().prepare(
    "DELETE FROM file_chunks WHERE rowid IN (SELECT rowid FROM file_chunks WHERE file_id = ? ORDER BY start_byte DESC LIMIT ?)",
  );
  for (const { id } of gone) {
    // What is begun to be thrown away is not whole any more, and cannot be brought back.
    quickDatabase().prepare("UPDATE files SET state = 'receiving' WHERE id = ?").run(id);
    while (part.run(id, CHUNKS).changes > 0) yield;
    quickDatabase().prepare("DELETE FROM files WHERE id = ?").run(id);
    yield;
  }
}

/** One at a time: a photo is up to a megabyte or so. Those of a removed piece go with it. */
function* throwPhotosAway(nowMs: number): Generator<void> {
  const before = new Date(nowMs - REMOVED_DAYS * DAY_MS).toISOString();
  const one = quickDatabase().prepare(
    `DELETE FROM photos WHERE id = (SELECT p.id FROM photos p JOIN runs r ON r.id = p.run_id
       WHERE p.removed_at < ? OR r.removed_at < ? LIMIT 1)`,
  );
  while (one.run(before, before).changes > 0) yield;
}

function* giveRoomBack(): Generator<void> {
  for (;;) {
    const free = database().pragma("freelist_count", { simple: true }) as number;
    if (free < PAGES) return;
    quickDatabase().pragma(`incremental_vacuum(${PAGES})`);
    const left = database().pragma("freelist_count", { simple: true }) as number;
    if (left >= free) return;
    yield;
  }
}
