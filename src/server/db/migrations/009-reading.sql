-- What a simulated printer made of a run: the state of everything that is read. Null for pieces that are really there.
ALTER TABLE runs ADD COLUMN piece TEXT CHECK (piece IS NULL OR json_valid(piece));

-- What was measured of the nozzle on the way, by height.
ALTER TABLE runs ADD COLUMN samples TEXT NOT NULL DEFAULT '[]' CHECK (json_valid(samples));

-- Jobs of trials that have begun: what their piece is made known with, should the program end before it.
CREATE TABLE begun_runs (
  job_id INTEGER PRIMARY KEY,
  begun TEXT NOT NULL CHECK (json_valid(begun))
);

-- Photos of a piece, and where its bottom and top edge lie on them, in pixels.
CREATE TABLE photos (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  run_id INTEGER NOT NULL REFERENCES runs (id),
  side TEXT NOT NULL CHECK (side IN ('front', 'back')),
  type TEXT NOT NULL,
  bytes BLOB NOT NULL,
  width_px INTEGER NOT NULL,
  height_px INTEGER NOT NULL,
  bottom_x REAL NOT NULL,
  bottom_y REAL NOT NULL,
  top_x REAL NOT NULL,
  top_y REAL NOT NULL,
  taken_at TEXT NOT NULL,
  version INTEGER NOT NULL DEFAULT 1,
  removed_at TEXT
);
CREATE INDEX photos_by_run ON photos (run_id, id);

-- What a kept value was found with, and how it came to be kept.
ALTER TABLE kept_values ADD COLUMN nozzle_mm REAL;
ALTER TABLE kept_values ADD COLUMN layer_height_mm REAL;
ALTER TABLE kept_values ADD COLUMN in_force TEXT NOT NULL DEFAULT '{}' CHECK (json_valid(in_force));
ALTER TABLE kept_values ADD COLUMN note TEXT NOT NULL DEFAULT '';
-- Carried over from another pair: a start that was not tried here.
ALTER TABLE kept_values ADD COLUMN carried_from INTEGER;

-- When everything is to be asked again for a pair: what was kept before is stale.
CREATE TABLE asked_anew (
  printer_id INTEGER NOT NULL,
  spool_id INTEGER NOT NULL,
  at TEXT NOT NULL,
  PRIMARY KEY (printer_id, spool_id)
) WITHOUT ROWID;
