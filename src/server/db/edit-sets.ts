/** Stacks of edits kept under a name, for the next file. */
import type { Edit } from "@/core/edits";
import { tellChange } from "../changes";
import { database } from "./connection";
import { readRows } from "./rows";

export interface EditSet {
  id: number;
  name: string;
  edits: Edit[];
  createdAt: string;
}

interface Row {
  id: number;
  name: string;
  edits: string;
  created_at: string;
}

const read = ({ id, name, edits, created_at }: Row): EditSet => ({
  ...{ id, name, createdAt: created_at },
  edits: JSON.parse(edits) as Edit[],
});

export const editSets = {
  list(): EditSet[] {
    const rows = database()
      .prepare("SELECT id, name, edits, created_at FROM edit_sets WHERE removed_at IS NULL ORDER BY name, id")
      .all() as Row[];
    return readRows("set of edits", rows, read);
  },
  add(name: string, edits: readonly Edit[]): EditSet {
    const createdAt = new Date().toISOString();
    const { lastInsertRowid } = database()
      .prepare("INSERT INTO edit_sets (name, edits, created_at) VALUES (?, ?, ?)")
      .run(name, JSON.stringify(edits), createdAt);
    tellChange("edit-sets", Number(lastInsertRowid));
    return { id: Number(lastInsertRowid), name, edits: [...edits], createdAt };
  },
  remove(id: number): boolean {
    const { changes } = database()
      .prepare("UPDATE edit_sets SET removed_at = ? WHERE id = ? AND removed_at IS NULL")
      .run(new Date().toISOString(), id);
    if (changes > 0) tellChange("edit-sets", id);
    return changes > 0;
  },
  restore(id: number): boolean {
    const { changes } = database().prepare("UPDATE edit_sets SET removed_at = NULL WHERE id = ?").run(id);
    if (changes > 0) tellChange("edit-sets", id);
    return changes > 0;
  },
};
