/** The conversation with printers, kept line by line. */
import type { LinkEvent } from "@/core/link/state";
import { database, quickDatabase } from "./connection";

/** An event with whose it is. */
export type KeptEvent = LinkEvent & { printerId: number; jobId: number | null };

interface Row {
  id: number;
  at_ms: number;
  direction: LinkEvent["direction"];
  source: LinkEvent["source"];
  text: string;
}

const read = (row: Row): LinkEvent => ({
  id: row.id,
  atMs: row.at_ms,
  direction: row.direction,
  source: row.source,
  text: row.text,
});

/** Events of jobs and of the question for temperatures are many; a console can do without them. */
const QUIET = "AND source NOT IN ('job', 'watch')";

const LISTED = "id, at_ms, direction, source, text";

/** The day of a moment where this machine stands, as SQLite's `date(…, 'localtime')` writes it. */
export function dayOf(atMs: number): string {
  const at = new Date(atMs);
  const two = (figure: number) => String(figure).padStart(2, "0");
  return `${at.getFullYear()}-${two(at.getMonth() + 1)}-${two(at.getDate())}`;
}

export const linkEvents = {
  lastId(): number {
    return (database().prepare("SELECT MAX(id) AS id FROM link_events").get() as { id: number | null }).id ?? 0;
  },
  /** Stores events and counts them to their day, in one step. */
  addAll(events: KeptEvent[]): void {
    const connection = quickDatabase();
    const insert = connection.prepare(
      "INSERT INTO link_events (id, printer_id, at_ms, direction, source, text, job_id) VALUES (?, ?, ?, ?, ?, ?, ?)",
    );
    const count = connection.prepare(
      `INSERT INTO link_days (printer_id, day, lines, bytes) VALUES (?, ?, ?, ?)
         ON CONFLICT (printer_id, day) DO UPDATE SET lines = lines + excluded.lines, bytes = bytes + excluded.bytes`,
    );
    connection.transaction(() => {
      const days = new Map<string, { printerId: number; day: string; lines: number; bytes: number }>();
      for (const { id, printerId, atMs, direction, source, text, jobId } of events) {
        insert.run(id, printerId, atMs, direction, source, text, jobId);
        const day = dayOf(atMs);
        const sum = days.get(`${printerId} ${day}`) ?? { printerId, day, lines: 0, bytes: 0 };
        sum.lines++;
        sum.bytes += text.length;
        days.set(`${printerId} ${day}`, sum);
      }
      for (const { printerId, day, lines, bytes } of days.values()) count.run(printerId, day, lines, bytes);
    })();
  },
  /** The first `most` events behind `afterId`, in order. */
  after(printerId: number, afterId: number, most: number, all: boolean): LinkEvent[] {
    const rows = database()
      .prepare(
        `SELECT ${LISTED} FROM link_events WHERE printer_id = ? AND id > ? ${all ? "" : QUIET} ORDER BY id LIMIT ?`,
      )
      .all(printerId, afterId, most) as Row[];
    return rows.map(read);
  },
  /** The last `most` events behind `afterId`, in order. */
  last(printerId: number, most: number, all: boolean, afterId = 0): LinkEvent[] {
    const rows = database()
      .prepare(
        `SELECT ${LISTED} FROM link_events WHERE printer_id = ? AND id > ? ${all ? "" : QUIET} ORDER BY id DESC LIMIT ?`,
      )
      .all(printerId, afterId, most) as Row[];
    return rows.reverse().map(read);
  },
  /** Days on which something was said, newest first, with how many lines and letters of it are kept. */
  days(printerId: number): { day: string; lines: number; bytes: number }[] {
    return database()
      .prepare("SELECT day, lines, bytes FROM link_days WHERE printer_id = ? ORDER BY day DESC")
      .all(printerId) as { day: string; lines: number; bytes: number }[];
  },
  /** What is kept of all talk. */
  size(): { lines: number; bytes: number } {
    return database()
      .prepare("SELECT IFNULL(SUM(lines), 0) AS lines, IFNULL(SUM(bytes), 0) AS bytes FROM link_days")
      .get() as {
      lines: number;
      bytes: number;
    };
  },
  /** The id of the first event at or after a moment; ids rise with time, so it is found by halving. */
  firstIdFrom(atMs: number): number {
    const connection = database();
    const at = connection.prepare("SELECT id, at_ms FROM link_events WHERE id >= ? ORDER BY id LIMIT 1");
    let low = 0;
    let high = linkEvents.lastId() + 1;
    while (low < high) {
      const middle = Math.floor((low + high) / 2);
      const row = at.get(middle) as { id: number; at_ms: number } | undefined;
      if (!row || row.at_ms >= atMs) high = middle;
      else low = row.id + 1;
    }
    return low;
  },
  /** A day's events behind `afterId`, in pieces. */
  ofDay(printerId: number, day: string, afterId: number, most: number, all = true): LinkEvent[] {
    const from = new Date(`${day}T00:00:00`).getTime();
    const to = new Date(from);
    to.setDate(to.getDate() + 1);
    const first = linkEvents.firstIdFrom(from);
    const behind = linkEvents.firstIdFrom(to.getTime());
    const rows = database()
      .prepare(
        `SELECT ${LISTED} FROM link_events WHERE printer_id = ? AND id > ? AND id < ? ${all ? "" : QUIET} ORDER BY id LIMIT ?`,
      )
      .all(printerId, Math.max(afterId, first - 1), behind, most) as Row[];
    return rows.map(read);
  },
};
