/** Photos of printed pieces. The bytes stay where they are until they are asked for. */
import type { Photo, PhotoPlace, Side } from "@/core/reading/photo";
import { tellChange } from "../changes";
import { database } from "./connection";

interface Row {
  id: number;
  run_id: number;
  side: Side;
  width_px: number;
  height_px: number;
  bottom_x: number;
  bottom_y: number;
  top_x: number;
  top_y: number;
  taken_at: string;
  version: number;
}

const COLUMNS = "id, run_id, side, width_px, height_px, bottom_x, bottom_y, top_x, top_y, taken_at, version";

const read = (row: Row): Photo => ({
  id: row.id,
  runId: row.run_id,
  side: row.side,
  widthPx: row.width_px,
  heightPx: row.height_px,
  bottom: [row.bottom_x, row.bottom_y],
  top: [row.top_x, row.top_y],
  takenAt: row.taken_at,
  version: row.version,
});

/** A picture that was checked and made ready to be stored. */
export interface ReadyPicture {
  bytes: Buffer;
  type: string;
  widthPx: number;
  heightPx: number;
}

export const photos = {
  /** In the order in which they came. */
  ofRun(runId: number): Photo[] {
    const rows = database()
      .prepare(`SELECT ${COLUMNS} FROM photos WHERE run_id = ? AND removed_at IS NULL ORDER BY id`)
      .all(runId);
    return (rows as Row[]).map(read);
  },
  get(id: number): Photo | null {
    const row = database().prepare(`SELECT ${COLUMNS} FROM photos WHERE id = ? AND removed_at IS NULL`).get(id);
    return row ? read(row as Row) : null;
  },
  bytes(id: number): { bytes: Buffer; type: string } | null {
    const row = database().prepare("SELECT bytes, type FROM photos WHERE id = ? AND removed_at IS NULL").get(id);
    return (row as { bytes: Buffer; type: string } | undefined) ?? null;
  },
  add(runId: number, side: Side, { bytes, type, widthPx, heightPx }: ReadyPicture, place: PhotoPlace): Photo {
    const { lastInsertRowid } = database()
      .prepare(
        `INSERT INTO photos (run_id, side, type, bytes, width_px, height_px, bottom_x, bottom_y, top_x, top_y, taken_at)
           VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
      )
      .run(runId, side, type, bytes, widthPx, heightPx, ...place.bottom, ...place.top, new Date().toISOString());
    tellChange("runs", runId);
    return photos.get(Number(lastInsertRowid))!;
  },
  /** Says where the bottom and the top of the piece lie on it. */
  place(id: number, { bottom, top }: PhotoPlace): Photo | null {
    database()
      .prepare(
        `UPDATE photos SET bottom_x = ?, bottom_y = ?, top_x = ?, top_y = ?, version = version + 1
           WHERE id = ? AND removed_at IS NULL`,
      )
      .run(...bottom, ...top, id);
    const photo = photos.get(id);
    if (photo) tellChange("runs", photo.runId);
    return photo;
  },
  remove(id: number): boolean {
    const photo = photos.get(id);
    if (!photo) return false;
    database()
      .prepare("UPDATE photos SET removed_at = ?, version = version + 1 WHERE id = ?")
      .run(new Date().toISOString(), id);
    tellChange("runs", photo.runId);
    return true;
  },
  restore(id: number): Photo | null {
    database().prepare("UPDATE photos SET removed_at = NULL, version = version + 1 WHERE id = ?").run(id);
    const photo = photos.get(id);
    if (photo) tellChange("runs", photo.runId);
    return photo;
  },
};
