/** Sheets as they are kept; `revision` counts their changes (`version` is that of their form). */
import type { Sheet } from "@/core/sheets/sheet";
import { sheetSchema } from "@/core/sheets/sheet-schema";
import { tellChange } from "../changes";
import { Refused } from "../refused";
import { database } from "./connection";
import { readRow, readRows } from "./rows";

export type StoredSheet = Sheet & { id: number; revision: number; createdAt: string; updatedAt: string };

interface Row {
  id: number;
  data: string;
  revision: number;
  created_at: string;
  updated_at: string;
}

const read = ({ id, data, revision, created_at, updated_at }: Row): StoredSheet => ({
  ...sheetSchema.parse(JSON.parse(data)),
  ...{ id, revision, createdAt: created_at, updatedAt: updated_at },
});

const COLUMNS = "id, data, revision, created_at, updated_at";

export const sheets = {
  list(): StoredSheet[] {
    const rows = database()
      .prepare(`SELECT ${COLUMNS} FROM sheets WHERE removed_at IS NULL ORDER BY id`)
      .all() as Row[];
    return readRows("sheet", rows, read);
  },
  get(id: number): StoredSheet | null {
    const row = database().prepare(`SELECT ${COLUMNS} FROM sheets WHERE id = ? AND removed_at IS NULL`).get(id);
    return readRow("sheet", row as Row | undefined, read);
  },
  add(sheet: Sheet): StoredSheet {
    const now = new Date().toISOString();
    const { lastInsertRowid } = database()
      .prepare("INSERT INTO sheets (data, created_at, updated_at) VALUES (?, ?, ?)")
      .run(JSON.stringify(sheet), now, now);
    tellChange("sheets", Number(lastInsertRowid));
    return sheets.get(Number(lastInsertRowid))!;
  },
  /** Null for an unknown id; refused if it is not the revision `seen` any more. */
  change(id: number, sheet: Sheet, seen?: number): StoredSheet | null {
    const current = sheets.get(id);
    if (!current) return null;
    if (seen !== undefined && seen !== current.revision) {
      throw new Refused(
        "conflict",
        `This sheet was changed elsewhere meanwhile: you saw revision ${seen}, now it is ${current.revision}. Nothing was stored.`,
        { current },
      );
    }
    database()
      .prepare("UPDATE sheets SET data = ?, revision = revision + 1, updated_at = ? WHERE id = ?")
      .run(JSON.stringify(sheet), new Date().toISOString(), id);
    tellChange("sheets", id);
    return sheets.get(id);
  },
  remove(id: number): boolean {
    const { changes } = database()
      .prepare("UPDATE sheets SET removed_at = ? WHERE id = ? AND removed_at IS NULL")
      .run(new Date().toISOString(), id);
    if (changes > 0) tellChange("sheets", id);
    return changes > 0;
  },
  restore(id: number): boolean {
    const { changes } = database().prepare("UPDATE sheets SET removed_at = NULL WHERE id = ?").run(id);
    if (changes > 0) tellChange("sheets", id);
    return changes > 0;
  },
};
