/** Readings of firmware values and every change that was tried. */
import type { Identity } from "@/core/firmware/reports/identity";
import type { ValueReading } from "@/core/firmware/values/reading";
import type { ChangeState, ValueChange, ValueSnapshot } from "@/core/link/state";
import { database } from "./connection";

interface SnapshotRow {
  id: number;
  taken_at: string;
  reading: string;
  stored: number;
}

interface ChangeRow {
  id: number;
  value_id: string;
  from_value: number | null;
  to_value: number;
  line: string;
  why: string;
  state: string;
  changed_at: string;
}

const readSnapshot = (row: SnapshotRow): ValueSnapshot => ({
  id: row.id,
  takenAt: row.taken_at,
  isStored: row.stored === 1,
  ...(JSON.parse(row.reading) as ValueReading & { identity: Identity }),
});

const readChange = (row: ChangeRow): ValueChange => ({
  id: row.id,
  valueId: row.value_id,
  from: row.from_value,
  to: row.to_value,
  line: row.line,
  why: row.why,
  state: row.state as ChangeState,
  changedAt: row.changed_at,
});

export const snapshots = {
  /** Newest first. */
  list(printerId: number, most = 30): ValueSnapshot[] {
    const rows = database()
      .prepare("SELECT * FROM value_snapshots WHERE printer_id = ? ORDER BY id DESC LIMIT ?")
      .all(printerId, most) as SnapshotRow[];
    return rows.map(readSnapshot);
  },
  get(id: number): (ValueSnapshot & { printerId: number }) | null {
    const row = database().prepare("SELECT * FROM value_snapshots WHERE id = ?").get(id) as
      (SnapshotRow & { printer_id: number }) | undefined;
    return row ? { ...readSnapshot(row), printerId: row.printer_id } : null;
  },
  /** The newest that says what the printer stores; null if none does. */
  lastStored(printerId: number): ValueSnapshot | null {
    const row = database()
      .prepare("SELECT * FROM value_snapshots WHERE printer_id = ? AND stored = 1 ORDER BY id DESC LIMIT 1")
      .get(printerId) as SnapshotRow | undefined;
    return row ? readSnapshot(row) : null;
  },
  add(printerId: number, reading: ValueReading & { identity: Identity }, isStored = false): ValueSnapshot {
    const { lastInsertRowid } = database()
      .prepare("INSERT INTO value_snapshots (printer_id, taken_at, reading, stored) VALUES (?, ?, ?, ?)")
      .run(printerId, new Date().toISOString(), JSON.stringify(reading), isStored ? 1 : 0);
    return snapshots.get(Number(lastInsertRowid))!;
  },
};

export const valueChanges = {
  /** Newest first. */
  list(printerId: number, most = 200): ValueChange[] {
    const rows = database()
      .prepare("SELECT * FROM value_changes WHERE printer_id = ? ORDER BY id DESC LIMIT ?")
      .all(printerId, most) as ChangeRow[];
    return rows.map(readChange);
  },
  get(id: number): (ValueChange & { printerId: number }) | null {
    const row = database().prepare("SELECT * FROM value_changes WHERE id = ?").get(id) as
      (ChangeRow & { printer_id: number }) | undefined;
    return row ? { ...readChange(row), printerId: row.printer_id } : null;
  },
  add(printerId: number, change: Omit<ValueChange, "id" | "changedAt">): ValueChange {
    const { lastInsertRowid } = database()
      .prepare(
        `INSERT INTO value_changes (printer_id, value_id, from_value, to_value, line, why, state, changed_at)
           VALUES (?, ?, ?, ?, ?, ?, ?, ?)`,
      )
      .run(
        printerId,
        change.valueId,
        change.from,
        change.to,
        change.line,
        change.why,
        change.state,
        new Date().toISOString(),
      );
    return valueChanges.get(Number(lastInsertRowid))!;
  },
  setState(id: number, state: ChangeState): void {
    database().prepare("UPDATE value_changes SET state = ? WHERE id = ?").run(state, id);
  },
};
