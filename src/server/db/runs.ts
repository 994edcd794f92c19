/** Printed pieces and what was read of them. */
import { printerSchema } from "@/core/shelf/printer-schema";
import type { Run } from "@/core/trials/run";
import { trialSchema } from "@/core/trials/trial-schema";
import type { Spool } from "@/core/shelf/spool";
import type { SimulatedPiece } from "@/core/simulator/piece/piece";
import type { Measured } from "@/core/reading/found";
import { layOver } from "@/core/reading/lay-over";
import type { GivenMark } from "@/core/reading/score";
import { tellChange } from "../changes";
import { database } from "./connection";
import { readRow, readRows } from "./rows";

interface Row {
  id: number;
  trial_id: number;
  trial: string;
  printer: string;
  spool_title: string;
  way: string;
  job_id: number | null;
  reached_mm: number | null;
  hash: string;
  told: string;
  by_hand: string;
  note: string;
  printed_at: string;
  piece: string | null;
  samples: string;
  version: number;
}

/** A piece that a simulated printer made, with the spool it was made of. */
export interface StoredPiece extends SimulatedPiece {
  spool: Spool;
}

const read = (row: Row): Run => ({
  id: row.id,
  trialId: row.trial_id,
  trial: trialSchema.parse(JSON.parse(row.trial)),
  printer: printerSchema.parse(JSON.parse(row.printer)),
  spoolTitle: row.spool_title,
  way: row.way as Run["way"],
  jobId: row.job_id,
  reachedMm: row.reached_mm,
  hash: row.hash,
  told: JSON.parse(row.told) as Run["told"],
  byHand: JSON.parse(row.by_hand) as Run["byHand"],
  note: row.note,
  printedAt: row.printed_at,
  samples: JSON.parse(row.samples) as Run["samples"],
  isSimulated: row.piece !== null,
  version: row.version,
});

export const runs = {
  /** Newest first. */
  ofTrial(trialId: number): Run[] {
    const rows = database()
      .prepare("SELECT * FROM runs WHERE trial_id = ? AND removed_at IS NULL ORDER BY id DESC")
      .all(trialId) as Row[];
    return readRows("run", rows, read);
  },
  get(id: number): Run | null {
    const row = database().prepare("SELECT * FROM runs WHERE id = ? AND removed_at IS NULL").get(id);
    return readRow("run", row as Row | undefined, read);
  },
  /** A run of a job is added once, however often it is tried. */
  add(run: Omit<Run, "id" | "version" | "isSimulated">, piece: StoredPiece | null): Run {
    const { lastInsertRowid, changes } = database()
      .prepare(
        `INSERT INTO runs (trial_id, trial, printer, spool_title, way, job_id, reached_mm, hash, told, by_hand, note, printed_at, piece, samples)
           VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?) ON CONFLICT (job_id) DO NOTHING`,
      )
      .run(
        run.trialId,
        JSON.stringify(run.trial),
        JSON.stringify(run.printer),
        run.spoolTitle,
        run.way,
        run.jobId,
        run.reachedMm,
        run.hash,
        JSON.stringify(run.told),
        JSON.stringify(run.byHand),
        run.note,
        run.printedAt,
        piece && JSON.stringify(piece),
        JSON.stringify(run.samples),
      );
    if (changes === 0) return runs.ofJob(run.jobId!)!;
    tellChange("runs", Number(lastInsertRowid));
    return runs.get(Number(lastInsertRowid))!;
  },
  /** What a simulated printer made; null for a piece that is really there. */
  piece(id: number): StoredPiece | null {
    const row = database().prepare("SELECT piece FROM runs WHERE id = ?").get(id) as
      { piece: string | null } | undefined;
    return row?.piece ? (JSON.parse(row.piece) as StoredPiece) : null;
  },
  ofJob(jobId: number): Run | null {
    const row = database().prepare("SELECT * FROM runs WHERE job_id = ?").get(jobId);
    return readRow("run", row as Row | undefined, read);
  },
  remove(id: number): boolean {
    const { changes } = database()
      .prepare("UPDATE runs SET removed_at = ?, version = version + 1 WHERE id = ? AND removed_at IS NULL")
      .run(new Date().toISOString(), id);
    if (changes > 0) tellChange("runs", id);
    return changes > 0;
  },
  restore(id: number): Run | null {
    database().prepare("UPDATE runs SET removed_at = NULL, version = version + 1 WHERE id = ?").run(id);
    tellChange("runs", id);
    return runs.get(id);
  },
};

/** What a piece is made known with when its job has ended, kept from its beginning on. */
export const begunRuns = {
  add(jobId: number, begun: unknown): void {
    database()
      .prepare("INSERT OR REPLACE INTO begun_runs (job_id, begun) VALUES (?, ?)")
      .run(jobId, JSON.stringify(begun));
  },
  /** All that are left, with what they were begun with. */
  all(): { jobId: number; begun: unknown }[] {
    const rows = database().prepare("SELECT job_id, begun FROM begun_runs ORDER BY job_id").all();
    return (rows as { job_id: number; begun: string }[]).map((row) => ({
      jobId: row.job_id,
      begun: JSON.parse(row.begun) as unknown,
    }));
  },
  remove(jobId: number): void {
    database().prepare("DELETE FROM begun_runs WHERE job_id = ?").run(jobId);
  },
};

/** What one reader says of a run. */
export interface Reading {
  reader: string;
  marks: GivenMark[];
  measures: Measured[];
  note: string;
  readAt: string;
}

interface ReadingRow {
  reader: string;
  marks: string;
  measures: string;
  note: string;
  read_at: string;
}

const readReading = (row: ReadingRow): Reading => ({
  reader: row.reader,
  marks: JSON.parse(row.marks) as GivenMark[],
  measures: JSON.parse(row.measures) as Measured[],
  note: row.note,
  readAt: row.read_at,
});

export const readings = {
  /** All readings of a run, in the order of their readers' names. */
  ofRun(runId: number): Reading[] {
    const rows = database().prepare("SELECT * FROM readings WHERE run_id = ? ORDER BY reader").all(runId);
    return (rows as ReadingRow[]).map(readReading);
  },
  /** Lays what is given over what the reader has said before: marks and measures that are not named stay. */
  give(runId: number, reader: string, given: Partial<Pick<Reading, "marks" | "measures" | "note">>): Reading {
    return database().transaction(() => {
      const before = readings.ofRun(runId).find((one) => one.reader === reader);
      const reading: Reading = {
        reader,
        ...layOver(before ?? { marks: [], measures: [] }, given),
        note: given.note ?? before?.note ?? "",
        readAt: new Date().toISOString(),
      };
      database()
        .prepare(
          `INSERT INTO readings (run_id, reader, marks, measures, note, read_at) VALUES (?, ?, ?, ?, ?, ?)
             ON CONFLICT (run_id, reader) DO UPDATE SET marks = excluded.marks, measures = excluded.measures,
               note = excluded.note, read_at = excluded.read_at`,
        )
        .run(
          runId,
          reader,
          JSON.stringify(reading.marks),
          JSON.stringify(reading.measures),
          reading.note,
          reading.readAt,
        );
      tellChange("runs", runId);
      return reading;
    })();
  },
};
