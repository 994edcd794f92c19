/** Results of measured tunes that were kept. */
import type { TuneResult } from "@/core/measure/result";
import { tellChange } from "../changes";
import { database } from "./connection";

export interface Measurement {
  id: number;
  tune: string;
  measuredAt: string;
  version: number;
  result: TuneResult;
}

interface Row {
  id: number;
  tune: string;
  measured_at: string;
  version: number;
  result: string;
}

const read = (row: Row): Measurement => ({
  id: row.id,
  tune: row.tune,
  measuredAt: row.measured_at,
  version: row.version,
  result: resultOf(row.result),
});

/** A result as data; older ones were kept as a sentence beside their firmware values. */
function resultOf(text: string): TuneResult {
  const { firmware, values, settings, printer } = JSON.parse(text) as Partial<TuneResult> & {
    values?: TuneResult["firmware"];
  };
  return { firmware: firmware ?? values ?? {}, settings: settings ?? {}, printer: printer ?? {} };
}

export const measurements = {
  /** Newest first. */
  list(printerId: number): Measurement[] {
    const rows = database()
      .prepare("SELECT * FROM measurements WHERE printer_id = ? ORDER BY id DESC LIMIT 200")
      .all(printerId) as Row[];
    return rows.map(read);
  },
  add(printerId: number, spoolId: number | null, tune: string, result: Measurement["result"]): number {
    const { lastInsertRowid } = database()
      .prepare("INSERT INTO measurements (printer_id, spool_id, tune, result, measured_at) VALUES (?, ?, ?, ?, ?)")
      .run(printerId, spoolId, tune, JSON.stringify(result), new Date().toISOString());
    tellChange("measurements", Number(lastInsertRowid));
    return Number(lastInsertRowid);
  },
};
