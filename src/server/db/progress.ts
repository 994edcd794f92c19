/** How far every trial has come, in one look at the database. */
import type { Progress } from "@/core/trials/brief";
import { database } from "./connection";

interface Row {
  trial_id: number;
  runs: number;
  readings: number;
  kept: number | null;
}

/** Per trial: its pieces, what was read of them, and the newest value that was kept of it. Trials without any are left out. */
export function progressOfAll(): Map<number, Progress> {
  const rows = database()
    .prepare(
      `SELECT trial_id, SUM(runs) AS runs, SUM(readings) AS readings, MAX(kept) AS kept FROM (
         SELECT r.trial_id, 1 AS runs, (SELECT COUNT(*) FROM readings WHERE run_id = r.id) AS readings, NULL AS kept
           FROM runs r WHERE r.removed_at IS NULL
         UNION ALL
         SELECT k.trial_id, 0, 0, k.value FROM kept_values k WHERE k.trial_id IS NOT NULL AND k.id = (
           SELECT MAX(id) FROM kept_values WHERE trial_id = k.trial_id AND removed_at IS NULL)
       ) GROUP BY trial_id`,
    )
    .all() as Row[];
  return new Map(rows.map(({ trial_id: id, runs, readings, kept }) => [id, { runs, readings, kept }]));
}
