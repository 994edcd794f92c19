import { mendName } from "@/core/shelf/name";
import { Trial } from "@/core/trials/trial";
import { trialSchema } from "@/core/trials/trial-schema";
import { tellChange } from "../changes";
import { database } from "./connection";
import { readRow, readRows, refuseStale } from "./rows";

/** A trial with the count of its changes. */
export type StoredTrial = Trial & { version: number };

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
  sheet: string | null;
  from_trial: number | null;
  round: number;
  version: number;
  created_at: string;
  updated_at: string;
}

/** Trials as they were read, with the very row: looking through thousands of plans for each list would hold others up. */
const known = new Map<number, { text: string; trial: StoredTrial }>();
const MOST_KNOWN = 5000;

function read(row: Row): StoredTrial {
  const text = Object.values(row).join("\u0000");
  const before = known.get(row.id);
  if (before?.text === text) return before.trial;
  const trial = readAnew(row);
  if (known.size >= MOST_KNOWN) known.clear();
  known.set(row.id, { text, trial });
  return trial;
}

function readAnew(row: Row): StoredTrial {
  const trial = trialSchema.parse({
    id: row.id,
    kind: row.kind,
    name: mendName(row.name),
    printerId: row.printer_id,
    spoolId: row.spool_id,
    layerHeightMm: row.layer_height_mm,
    firstLayerHeightMm: row.first_layer_height_mm,
    plan: JSON.parse(row.plan),
    fixed: JSON.parse(row.fixed),
    tool: row.tool,
    options: JSON.parse(row.options),
    ...(row.sheet === null ? {} : { sheet: JSON.parse(row.sheet) }),
    round: row.round,
    from: row.from_trial,
    createdAt: row.created_at,
    updatedAt: row.updated_at,
  });
  return { ...trial, version: row.version };
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
  trial.sheet ? JSON.stringify(trial.sheet) : null,
];

export const trials = {
  /** Newest first; the first `most` of them if that is given. */
  list(most = -1): StoredTrial[] {
    const rows = database()
      .prepare("SELECT * FROM trials WHERE removed_at IS NULL ORDER BY id DESC LIMIT ?")
      .all(most) as Row[];
    return readRows("trial", rows, read);
  },
  /** In the order they were made. */
  ids(): number[] {
    const rows = database().prepare("SELECT id FROM trials WHERE removed_at IS NULL ORDER BY id").all();
    return (rows as { id: number }[]).map(({ id }) => id);
  },
  get(id: number): StoredTrial | null {
    const row = database().prepare("SELECT * FROM trials WHERE id = ? AND removed_at IS NULL").get(id);
    return readRow("trial", row as Row | undefined, read);
  },
  /** The trials that are the next round of one. */
  goingOnFrom(id: number): StoredTrial[] {
    const rows = database()
      .prepare("SELECT * FROM trials WHERE from_trial = ? AND removed_at IS NULL ORDER BY id")
      .all(id);
    return readRows("trial", rows as Row[], read);
  },
  /** Stores a trial and gives its id; one that is marked as removed is not seen yet. */
  insert(trial: TrialFields, removedAt: string | null = null): number {
    const now = new Date().toISOString();
    const { lastInsertRowid } = database()
      .prepare(
        `INSERT INTO trials (kind, name, printer_id, spool_id, layer_height_mm, first_layer_height_mm, plan, fixed,
           tool, options, sheet, created_at, updated_at, from_trial, round, removed_at)
         VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
      )
      .run(...columns(trial), now, now, trial.from ?? null, trial.round ?? 1, removedAt);
    return Number(lastInsertRowid);
  },
  add(trial: TrialFields): StoredTrial {
    const id = trials.insert(trial);
    tellChange("trials", id);
    return trials.get(id)!;
  },
  /** What trials are called, with their printer and spool. */
  names(): { printerId: number; spoolId: number; name: string }[] {
    return database()
      .prepare(
        "SELECT printer_id AS printerId, spool_id AS spoolId, name FROM trials WHERE removed_at IS NULL ORDER BY id",
      )
      .all() as { printerId: number; spoolId: number; name: string }[];
  },
  /** Changes what is named and keeps the rest; null for an unknown id, refused if it is not the version `seen` any more. */
  change(id: number, changes: Partial<TrialFields>, seen?: number): StoredTrial | null {
    const before = trials.get(id);
    if (!before) return null;
    refuseStale("trial", before, seen);
    database()
      .prepare(
        `UPDATE trials SET kind = ?, name = ?, printer_id = ?, spool_id = ?, layer_height_mm = ?,
           first_layer_height_mm = ?, plan = ?, fixed = ?, tool = ?, options = ?, sheet = ?, updated_at = ?, version = version + 1
           WHERE id = ?`,
      )
      .run(...columns({ ...before, ...changes }), new Date().toISOString(), id);
    tellChange("trials", id);
    return trials.get(id);
  },
  /** Takes the trial off the list; `restore` puts it back. */
  remove(id: number): boolean {
    const result = database()
      .prepare("UPDATE trials SET removed_at = ?, version = version + 1 WHERE id = ? AND removed_at IS NULL")
      .run(new Date().toISOString(), id);
    if (result.changes > 0) tellChange("trials", id);
    return result.changes > 0;
  },
  restore(id: number): StoredTrial | null {
    database().prepare("UPDATE trials SET removed_at = NULL, version = version + 1 WHERE id = ?").run(id);
    tellChange("trials", id);
    return trials.get(id);
  },
};
