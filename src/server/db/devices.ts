/** Devices of the home network that were let in. */
import { tellChange } from "../changes";
import type { Right } from "../who";
import { database, quickDatabase } from "./connection";

export interface Device {
  id: number;
  name: string;
  may: Right;
  version: number;
  createdAt: string;
  seenAt: string;
}

/** A device as it is stored, with the hash of what it carries. */
export interface DeviceRow {
  id: number;
  name: string;
  token_hash: string;
  may: Right;
  version: number;
  created_at: string;
  seen_at: string;
}

const read = (row: DeviceRow): Device => ({
  id: row.id,
  name: row.name,
  may: row.may,
  version: row.version,
  createdAt: row.created_at,
  seenAt: row.seen_at,
});

/** That a device was seen is written down this often. */
const SEEN_EVERY_MS = 60_000;

export const devices = {
  /** As they are stored. */
  rows(): DeviceRow[] {
    return database().prepare("SELECT * FROM devices ORDER BY id").all() as DeviceRow[];
  },
  list(): Device[] {
    return devices.rows().map(read);
  },
  get(id: number): Device | null {
    const row = database().prepare("SELECT * FROM devices WHERE id = ?").get(id) as DeviceRow | undefined;
    return row ? read(row) : null;
  },
  byHash(hash: string): Device | null {
    const row = database().prepare("SELECT * FROM devices WHERE token_hash = ?").get(hash) as DeviceRow | undefined;
    if (!row) return null;
    if (Date.now() - Date.parse(row.seen_at) > SEEN_EVERY_MS) {
      quickDatabase().prepare("UPDATE devices SET seen_at = ? WHERE id = ?").run(new Date().toISOString(), row.id);
    }
    return read(row);
  },
  add(name: string, tokenHash: string, may: Right): Device {
    const now = new Date().toISOString();
    const { lastInsertRowid } = database()
      .prepare("INSERT INTO devices (name, token_hash, may, created_at, seen_at) VALUES (?, ?, ?, ?, ?)")
      .run(name, tokenHash, may, now, now);
    tellChange("devices", Number(lastInsertRowid));
    return devices.get(Number(lastInsertRowid))!;
  },
  allow(id: number, may: Right): Device | null {
    database().prepare("UPDATE devices SET may = ?, version = version + 1 WHERE id = ?").run(may, id);
    tellChange("devices", id);
    return devices.get(id);
  },
  /** Sends it away: what it carries is worth nothing from now on. */
  remove(id: number): boolean {
    const { changes } = database().prepare("DELETE FROM devices WHERE id = ?").run(id);
    if (changes > 0) tellChange("devices", id);
    return changes > 0;
  },
};
