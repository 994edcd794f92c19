/** Values kept for a printer and a spool. The newest of a setting counts; older ones are its history. */
import { SettingKey, SettingValues } from "@/core/settings";
import type { KeptValue } from "@/core/trials/kept";
import { tellChange } from "../changes";
import { database } from "./connection";

/** What is said of a value when it is kept. */
export type NewKept = Pick<KeptValue, "printerId" | "spoolId" | "setting" | "value" | "trialId"> &
  Partial<
    Pick<
      KeptValue,
      "fromValue" | "toValue" | "runId" | "nozzleMm" | "layerHeightMm" | "inForce" | "note" | "carriedFrom"
    >
  > & { keptAt?: string };

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
  nozzle_mm: number | null;
  layer_height_mm: number | null;
  in_force: string;
  note: string;
  carried_from: number | null;
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
  nozzleMm: row.nozzle_mm,
  layerHeightMm: row.layer_height_mm,
  inForce: JSON.parse(row.in_force) as SettingValues,
  note: row.note,
  carriedFrom: row.carried_from,
  keptAt: row.kept_at,
  version: row.version,
});

/** What counts: the newest of each setting of a pair, by when it was kept. */
function newest(where: string, ...ids: number[]): KeptValue[] {
  const rows = database()
    .prepare(
      `SELECT * FROM (
         SELECT *, ROW_NUMBER() OVER (PARTITION BY printer_id, spool_id, setting ORDER BY kept_at DESC, id DESC) AS place
           FROM kept_values WHERE removed_at IS NULL AND ${where})
         WHERE place = 1 ORDER BY kept_at DESC, id DESC`,
    )
    .all(...ids) as Row[];
  return rows.map(read);
}

export const kept = {
  /** The value that counts for each setting of a pair, newest first. */
  list(printerId: number, spoolId: number): KeptValue[] {
    return newest("printer_id = ? AND spool_id = ?", printerId, spoolId);
  },
  /** The value that counts for each setting of every pair, newest first. */
  all: (): KeptValue[] => newest("TRUE"),
  /** All that was ever kept and not taken back, oldest first. */
  everything(): KeptValue[] {
    const rows = database().prepare("SELECT * FROM kept_values WHERE removed_at IS NULL ORDER BY kept_at, id").all();
    return (rows as Row[]).map(read);
  },
  /** Everything that was ever kept of a setting for a pair, newest first. */
  history(printerId: number, spoolId: number, setting: SettingKey): KeptValue[] {
    const rows = database()
      .prepare(
        "SELECT * FROM kept_values WHERE printer_id = ? AND spool_id = ? AND setting = ? AND removed_at IS NULL ORDER BY kept_at DESC, id DESC",
      )
      .all(printerId, spoolId, setting) as Row[];
    return rows.map(read);
  },
  get(id: number): KeptValue | null {
    const row = database().prepare("SELECT * FROM kept_values WHERE id = ? AND removed_at IS NULL").get(id) as
      Row | undefined;
    return row ? read(row) : null;
  },
  /** Stores a value and gives its id; one that is marked as removed is not seen yet. */
  insert(value: NewKept, removedAt: string | null = null): number {
    const { lastInsertRowid } = database()
      .prepare(
        `INSERT INTO kept_values (printer_id, spool_id, setting, value, trial_id, from_value, to_value, run_id,
             nozzle_mm, layer_height_mm, in_force, note, carried_from, kept_at, removed_at)
           VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
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
        value.nozzleMm ?? null,
        value.layerHeightMm ?? null,
        JSON.stringify(value.inForce ?? without(keptSettings(value.printerId, value.spoolId), value.setting)),
        value.note ?? "",
        value.carriedFrom ?? null,
        value.keptAt ?? new Date().toISOString(),
        removedAt,
      );
    return Number(lastInsertRowid);
  },
  add(value: NewKept): KeptValue {
    const id = kept.insert(value);
    tellChange("kept", id);
    return kept.get(id)!;
  },
  /** Keeps several values of one pair, all of them or none; `read` is the one that was read from a piece, with its range. */
  addAll(
    values: SettingValues,
    about: Omit<NewKept, "setting" | "value" | "fromValue" | "toValue">,
    read?: Pick<NewKept, "setting" | "fromValue" | "toValue">,
  ): KeptValue[] {
    return database().transaction(() => {
      const together = { ...keptSettings(about.printerId, about.spoolId), ...values };
      return (Object.entries(values) as [SettingKey, number][]).map(([setting, value]) =>
        kept.add({
          ...about,
          setting,
          value,
          inForce: without(together, setting),
          ...(read?.setting === setting ? read : {}),
        }),
      );
    })();
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

/** Those that were taken over from another pair and not found here since. */
export function carriedSettings(printerId: number, spoolId: number): SettingValues {
  const carried = kept.list(printerId, spoolId).filter(({ carriedFrom }) => carriedFrom !== null);
  return Object.fromEntries(carried.map(({ setting, value }) => [setting, value]));
}

/** What else is kept beside a setting. */
function without(values: SettingValues, setting: SettingKey): SettingValues {
  return Object.fromEntries(Object.entries(values).filter(([key]) => key !== setting));
}

/** When everything is to be asked again for a pair: what was kept before is stale. */
export const askedAnew = {
  at(printerId: number, spoolId: number): string | null {
    const row = database()
      .prepare("SELECT at FROM asked_anew WHERE printer_id = ? AND spool_id = ?")
      .get(printerId, spoolId);
    return (row as { at: string } | undefined)?.at ?? null;
  },
  set(printerId: number, spoolId: number): string {
    const at = new Date().toISOString();
    database()
      .prepare(
        "INSERT INTO asked_anew (printer_id, spool_id, at) VALUES (?, ?, ?) ON CONFLICT (printer_id, spool_id) DO UPDATE SET at = excluded.at",
      )
      .run(printerId, spoolId, at);
    tellChange("kept", 0);
    return at;
  },
  clear(printerId: number, spoolId: number): void {
    database().prepare("DELETE FROM asked_anew WHERE printer_id = ? AND spool_id = ?").run(printerId, spoolId);
    tellChange("kept", 0);
  },
};
