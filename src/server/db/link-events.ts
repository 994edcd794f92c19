/** The conversation with printers, kept line by line. */
import type { LinkEvent } from "@/core/link/state";
import { database } from "./connection";

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

export const linkEvents = {
  lastId(): number {
    return (database().prepare("SELECT MAX(id) AS id FROM link_events").get() as { id: number | null }).id ?? 0;
  },
  addAll(events: (LinkEvent & { printerId: number })[]): void {
    const insert = database().prepare(
      "INSERT INTO link_events (id, printer_id, at_ms, direction, source, text) VALUES (?, ?, ?, ?, ?, ?)",
    );
    database().transaction(() => {
      for (const { id, printerId, atMs, direction, source, text } of events)
        insert.run(id, printerId, atMs, direction, source, text);
    })();
  },
  /** The first `most` events behind `afterId`, in order. */
  after(printerId: number, afterId: number, most: number, all: boolean): LinkEvent[] {
    const rows = database()
      .prepare(`SELECT * FROM link_events WHERE printer_id = ? AND id > ? ${all ? "" : QUIET} ORDER BY id LIMIT ?`)
      .all(printerId, afterId, most) as Row[];
    return rows.map(read);
  },
  /** The last `most` events, in order. */
  last(printerId: number, most: number, all: boolean): LinkEvent[] {
    const rows = database()
      .prepare(`SELECT * FROM link_events WHERE printer_id = ? ${all ? "" : QUIET} ORDER BY id DESC LIMIT ?`)
      .all(printerId, most) as Row[];
    return rows.reverse().map(read);
  },
  /** Days on which something was said, newest first, with how many lines. */
  days(printerId: number): { day: string; lines: number }[] {
    return database()
      .prepare(
        `SELECT date(at_ms / 1000, 'unixepoch', 'localtime') AS day, COUNT(*) AS lines FROM link_events
           WHERE printer_id = ? GROUP BY day ORDER BY day DESC`,
      )
      .all(printerId) as { day: string; lines: number }[];
  },
  /** A day's events behind `afterId`, in pieces. */
  ofDay(printerId: number, day: string, afterId: number, most: number, all = true): LinkEvent[] {
    const rows = database()
      .prepare(
        `SELECT * FROM link_events WHERE printer_id = ? AND id > ? ${all ? "" : QUIET}
           AND at_ms >= CAST(strftime('%s', ?, 'utc') AS INTEGER) * 1000
           AND at_ms < CAST(strftime('%s', ?, '+1 day', 'utc') AS INTEGER) * 1000 ORDER BY id LIMIT ?`,
      )
      .all(printerId, afterId, day, day, most) as Row[];
    return rows.map(read);
  },
};
