/** Jobs that were sent to a printer, and the changes made by hand while they ran. */
import { stateFromJson } from "@/core/machine/state";
import type { BriefJob, JobMark, JobRecord, JobState } from "@/core/link/state";
import type { SettingKey } from "@/core/settings";
import { database, quickDatabase } from "./connection";
import { readRow, readRows } from "./rows";

interface Row {
  id: number;
  printer_id: number;
  source: string;
  source_id: number;
  name: string;
  state: string;
  total_lines: number;
  lines_taken: number;
  height_mm: number;
  told: string;
  why: string;
  started_at: string;
  ended_at: string | null;
  seen: number;
}

const read = (row: Row): JobRecord => ({
  id: row.id,
  printerId: row.printer_id,
  source: row.source as JobRecord["source"],
  sourceId: row.source_id,
  name: row.name,
  state: row.state as JobState,
  totalLines: row.total_lines,
  linesTaken: row.lines_taken,
  heightMm: row.height_mm,
  told: stateFromJson(row.told),
  why: row.why,
  startedAt: row.started_at,
  endedAt: row.ended_at,
  seen: row.seen === 1,
});

/** How far a job is. */
export type JobProgress = Pick<JobRecord, "state" | "linesTaken" | "heightMm" | "told">;

/** So many jobs are listed at most. */
const MOST_BRIEFS = 5000;

const PROGRESS =
  "UPDATE jobs SET state = ?, lines_taken = ?, height_mm = ?, told = ?, why = ?, ended_at = ? WHERE id = ?";

export const jobs = {
  get(id: number): JobRecord | null {
    const row = database().prepare("SELECT * FROM jobs WHERE id = ?").get(id) as Row | undefined;
    return readRow("job", row, read);
  },
  /** Newest first. */
  list(printerId: number, most = 20): JobRecord[] {
    const rows = database()
      .prepare("SELECT * FROM jobs WHERE printer_id = ? ORDER BY id DESC LIMIT ?")
      .all(printerId, most) as Row[];
    return readRows("job", rows, read);
  },
  /** All jobs in brief, newest first. */
  briefs(): BriefJob[] {
    const rows = database()
      .prepare(
        `SELECT id, printer_id, name, state, height_mm, started_at, ended_at FROM jobs ORDER BY id DESC LIMIT ${MOST_BRIEFS}`,
      )
      .all() as Row[];
    return readRows("job", rows, (row) => ({
      id: row.id,
      printerId: row.printer_id,
      name: row.name,
      state: row.state as JobState,
      heightMm: row.height_mm,
      startedAt: row.started_at,
      endedAt: row.ended_at,
    }));
  },
  /** Jobs that broke off and that nobody has looked at yet. */
  brokenUnseen(): JobRecord[] {
    const rows = database()
      .prepare("SELECT * FROM jobs WHERE state = 'broken' AND seen = 0 ORDER BY id DESC LIMIT 50")
      .all() as Row[];
    return readRows("job", rows, read);
  },
  begin(job: Pick<JobRecord, "printerId" | "source" | "sourceId" | "name" | "totalLines">): number {
    const { lastInsertRowid } = database()
      .prepare(
        `INSERT INTO jobs (printer_id, source, source_id, name, state, total_lines, started_at) VALUES (?, ?, ?, ?, 'running', ?, ?)`,
      )
      .run(job.printerId, job.source, job.sourceId, job.name, job.totalLines, new Date().toISOString());
    return Number(lastInsertRowid);
  },
  /** How far it is; may be lost with the power. */
  progress(id: number, job: JobProgress): void {
    quickDatabase()
      .prepare(PROGRESS)
      .run(job.state, job.linesTaken, job.heightMm, JSON.stringify(job.told), "", null, id);
  },
  /** How it ended. */
  end(id: number, job: JobProgress, why: string): void {
    const endedAt = new Date().toISOString();
    database()
      .prepare(PROGRESS)
      .run(job.state, job.linesTaken, job.heightMm, JSON.stringify(job.told), why, endedAt, id);
  },
  see(id: number): void {
    database().prepare("UPDATE jobs SET seen = 1 WHERE id = ?").run(id);
  },
  /** At a start: jobs that were running when the program ended did not end well. */
  breakOpen(): void {
    database()
      .prepare("UPDATE jobs SET state = 'broken', why = ?, ended_at = ? WHERE state IN ('running', 'paused')")
      .run("Cuchara ended while it ran.", new Date().toISOString());
  },
  mark(jobId: number, mark: JobMark): void {
    database()
      .prepare("INSERT INTO job_marks (job_id, height_mm, setting, value, made_at) VALUES (?, ?, ?, ?, ?)")
      .run(jobId, mark.heightMm, mark.setting, mark.value, mark.madeAt);
  },
  marks(jobId: number): JobMark[] {
    const rows = database().prepare("SELECT * FROM job_marks WHERE job_id = ? ORDER BY id").all(jobId) as {
      height_mm: number;
      setting: string;
      value: number;
      made_at: string;
    }[];
    return rows.map((row) => ({
      heightMm: row.height_mm,
      setting: row.setting as SettingKey,
      value: row.value,
      madeAt: row.made_at,
    }));
  },
};
