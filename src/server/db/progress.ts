/** How far every trial has come, in two looks at the database. */
import type { Progress } from "@/core/trials/brief";
import type { SettingKey } from "@/core/settings";
import { database } from "./connection";

/** Per trial: its pieces, what was read of them, and the newest values that were kept of it. Trials without any are left out. */
export function progressOfAll(): Map<number, Progress> {
  const all = new Map<number, Progress>();
  const of = (id: number) => {
    const known = all.get(id) ?? { runs: 0, readings: 0, kept: {} };
    all.set(id, known);
    return known;
  };
  const printed = database()
    .prepare(
      `SELECT r.trial_id, COUNT(DISTINCT r.id) AS runs, COUNT(g.run_id) AS readings
         FROM runs r LEFT JOIN readings g ON g.run_id = r.id WHERE r.removed_at IS NULL GROUP BY r.trial_id`,
    )
    .all() as { trial_id: number; runs: number; readings: number }[];
  for (const { trial_id: id, runs, readings } of printed) Object.assign(of(id), { runs, readings });
  const kept = database()
    .prepare(
      "SELECT trial_id, setting, value FROM kept_values WHERE trial_id IS NOT NULL AND removed_at IS NULL ORDER BY id",
    )
    .all() as { trial_id: number; setting: SettingKey; value: number }[];
  for (const { trial_id: id, setting, value } of kept) of(id).kept[setting] = value;
  return all;
}
