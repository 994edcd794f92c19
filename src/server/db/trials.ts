import { Trial, trialSchema } from "@/core/trials/trial";
import { database } from "./connection";

interface Row {
  id: number;
  kind: string;
  name: string;
  printer_id: number;
  spool_id: number;
  layer_height_mm: number;
  first_layer_height_mm: number;
  plan: string;
  fixed: string;
  tool: number;
  options: string;
  created_at: string;
  updated_at: string;
}

function read(row: Row | undefined): Trial | null {
  if (!row) return null;
  return trialSchema.parse({
    id: row.id,
    kind: row.kind,
    name: row.name,
    printerId: row.printer_id,
    spoolId: row.spool_id,
    layerHeightMm: row.layer_height_mm,
    firstLayerHeightMm: row.first_layer_height_mm,
    plan: JSON.parse(row.plan),
    fixed: JSON.parse(row.fixed),
    tool: row.tool,
    options: JSON.parse(row.options),
    createdAt: row.created_at,
    updatedAt: row.updated_at,
  });
}

export type TrialFields = Omit<Trial, "id" | "createdAt" | "updatedAt">;

const columns = (trial: TrialFields) => [
  trial.kind,
  trial.name,
  trial.printerId,
  trial.spoolId,
  trial.layerHeightMm,
  trial.firstLayerHeightMm,
  JSON.stringify(trial.plan),
  JSON.stringify(trial.fixed),
  trial.tool,
  JSON.stringify(trial.options),
];

export const trials = {
  /** Newest first. */
  list(): Trial[] {
    const rows = database().prepare("SELECT * FROM trials WHERE removed_at IS NULL ORDER BY id DESC").all() as Row[];
    return rows.map((row) => read(row)!);
  },
  get(id: number): Trial | null {
    return read(
      database().prepare("SELECT * FROM trials WHERE id = ? AND removed_at IS NULL").get(id) as Row | undefined,
    );
  },
  add(trial: TrialFields): Trial {
    const now = new Date().toISOString();
    const { lastInsertRowid } = database()
      .prepare(
        `INSERT INTO trials (kind, name, printer_id, spool_id, layer_height_mm, first_layer_height_mm, plan, fixed,
           tool, options, created_at, updated_at) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
      )
      .run(...columns(trial), now, now);
    return trials.get(Number(lastInsertRowid))!;
  },
  change(id: number, trial: TrialFields): Trial | null {
    database()
      .prepare(
        `UPDATE trials SET kind = ?, name = ?, printer_id = ?, spool_id = ?, layer_height_mm = ?,
           first_layer_height_mm = ?, plan = ?, fixed = ?, tool = ?, options = ?, updated_at = ? WHERE id = ? AND removed_at IS NULL`,
      )
      .run(...columns(trial), new Date().toISOString(), id);
    return trials.get(id);
  },
  /** Takes the trial off the list; `restore` puts it back. */
  remove(id: number): boolean {
    const result = database()
      .prepare("UPDATE trials SET removed_at = ? WHERE id = ? AND removed_at IS NULL")
      .run(new Date().toISOString(), id);
    return result.changes > 0;
  },
  restore(id: number): Trial | null {
    database().prepare("UPDATE trials SET removed_at = NULL WHERE id = ?").run(id);
    return trials.get(id);
  },
};
