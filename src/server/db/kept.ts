/** Values kept for a printer and a spool. The newest of a setting counts; older ones are its history. */
import { SettingKey, SettingValues } from "@/core/settings";
import { tellChange } from "../changes";
import { database } from "./connection";

export interface KeptValue {
  id: number;
  printerId: number;
  spoolId: number;
  setting: SettingKey;
  value: number;
  /** The trial it came from; null if it was typed in. */
  trialId: number | null;
  /** The values that cannot be told from it; null where nobody said. */
  fromValue: number | null;
  toValue: number | null;
  /** The printed piece it was read from. */
  runId: number | null;
  keptAt: string;
  version: number;
}

/** What is said of a value when it is kept. */
export type NewKept = Pick<KeptValue, "printerId" | "spoolId" | "setting" | "value" | "trialId"> &
  Partial<Pick<KeptValue, "fromValue" | "toValue" | "runId">>;

interface Row {
  id: number;
  printer_id: number;
  spool_id: number;
  setting: string;
  value: number;
  trial_id: number | null;
  from_value: number | null;
  to_value: number | null;
  run_id: number | null;
  kept_at: string;
  version: number;
}

const read = (row: Row): KeptValue => ({
  id: row.id,
  printerId: row.printer_id,
  spoolId: row.spool_id,
  setting: row.setting as SettingKey,
  value: row.value,
  trialId: row.trial_id,
  fromValue: row.from_value,
  toValue: row.to_value,
  runId: row.run_id,
  keptAt: row.kept_at,
  version: row.version,
});

export const kept = {
  /** The value that counts for each setting of a pair, newest first. */
  list(printerId: number, spoolId: number): KeptValue[] {
    const rows = database()
      .prepare(
        `SELECT * FROM kept_values k WHERE printer_id = ? AND spool_id = ? AND removed_at IS NULL AND id = (
           SELECT MAX(id) FROM kept_values WHERE printer_id = k.printer_id AND spool_id = k.spool_id
             AND setting = k.setting AND removed_at IS NULL) ORDER BY id DESC`,
      )
      .all(printerId, spoolId) as Row[];
    return rows.map(read);
  },
  /** The value that counts for each setting of every pair, newest first. */
  all(): KeptValue[] {
    const rows = database()
      .prepare(
        `SELECT * FROM kept_values WHERE id IN (
           SELECT MAX(id) FROM kept_values WHERE removed_at IS NULL GROUP BY printer_id, spool_id, setting)
         ORDER BY id DESC`,
      )
      .all() as Row[];
    return rows.map(read);
  },
  get(id: number): KeptValue | null {
    const row = database().prepare("SELECT * FROM kept_values WHERE id = ? AND removed_at IS NULL").get(id) as
      Row | undefined;
    return row ? read(row) : null;
  },
  add(value: NewKept): KeptValue {
    const { lastInsertRowid } = database()
      .prepare(
        `INSERT INTO kept_values (printer_id, spool_id, setting, value, trial_id, from_value, to_value, run_id, kept_at)
           VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)`,
      )
      .run(
        value.printerId,
        value.spoolId,
        value.setting,
        value.value,
        value.trialId,
        value.fromValue ?? null,
        value.toValue ?? null,
        value.runId ?? null,
        new Date().toISOString(),
      );
    tellChange("kept", Number(lastInsertRowid));
    return kept.get(Number(lastInsertRowid))!;
  },
  /** Keeps several values of one pair, all of them or none; `read` is the one that was read from a piece, with its range. */
  addAll(
    values: SettingValues,
    about: Omit<NewKept, "setting" | "value" | "fromValue" | "toValue">,
    read?: Pick<NewKept, "setting" | "fromValue" | "toValue">,
  ): KeptValue[] {
    return database().transaction(() =>
      (Object.entries(values) as [SettingKey, number][]).map(([setting, value]) =>
        kept.add({ ...about, setting, value, ...(read?.setting === setting ? read : {}) }),
      ),
    )();
  },
  /** Takes a value back; the one before it counts again. */
  remove(id: number): boolean {
    const { changes } = database()
      .prepare("UPDATE kept_values SET removed_at = ?, version = version + 1 WHERE id = ? AND removed_at IS NULL")
      .run(new Date().toISOString(), id);
    if (changes > 0) tellChange("kept", id);
    return changes > 0;
  },
  /** Puts a value back that was taken back. */
  restore(id: number): KeptValue | null {
    const { changes } = database()
      .prepare(
        "UPDATE kept_values SET removed_at = NULL, version = version + 1 WHERE id = ? AND removed_at IS NOT NULL",
      )
      .run(id);
    if (changes > 0) tellChange("kept", id);
    return kept.get(id);
  },
};

/** The kept values of a pair as plain settings. */
export function keptSettings(printerId: number, spoolId: number): SettingValues {
  return Object.fromEntries(kept.list(printerId, spoolId).map(({ setting, value }) => [setting, value]));
}
