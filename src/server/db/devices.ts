/** Devices of the home network that were let in. */
import { tellChange } from "../changes";
import { database, quickDatabase } from "./connection";

export interface Device {
  id: number;
  name: string;
  /** May move and heat printers. */
  mayAct: boolean;
  version: number;
  createdAt: string;
  seenAt: string;
}

interface Row {
  id: number;
  name: string;
  may_act: number;
  version: number;
  created_at: string;
  seen_at: string;
}

const read = (row: Row): Device => ({
  id: row.id,
  name: row.name,
  mayAct: row.may_act === 1,
  version: row.version,
  createdAt: row.created_at,
  seenAt: row.seen_at,
});

/** That a device was seen is written down this often. */
const SEEN_EVERY_MS = 60_000;

export const devices = {
  list(): Device[] {
    return (database().prepare("SELECT * FROM devices ORDER BY id").all() as Row[]).map(read);
  },
  get(id: number): Device | null {
    const row = database().prepare("SELECT * FROM devices WHERE id = ?").get(id) as Row | undefined;
    return row ? read(row) : null;
  },
  byHash(hash: string): Device | null {
    const row = database().prepare("SELECT * FROM devices WHERE token_hash = ?").get(hash) as Row | undefined;
    if (!row) return null;
    if (Date.now() - Date.parse(row.seen_at) > SEEN_EVERY_MS) {
      quickDatabase().prepare("UPDATE devices SET seen_at = ? WHERE id = ?").run(new Date().toISOString(), row.id);
    }
    return read(row);
  },
  add(name: string, tokenHash: string): Device {
    const now = new Date().toISOString();
    const { lastInsertRowid } = database()
      .prepare("INSERT INTO devices (name, token_hash, created_at, seen_at) VALUES (?, ?, ?, ?)")
      .run(name, tokenHash, now, now);
    tellChange("devices", Number(lastInsertRowid));
    return devices.get(Number(lastInsertRowid))!;
  },
  allow(id: number, mayAct: boolean): Device | null {
    database()
      .prepare("UPDATE devices SET may_act = ?, version = version + 1 WHERE id = ?")
      .run(mayAct ? 1 : 0, id);
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
