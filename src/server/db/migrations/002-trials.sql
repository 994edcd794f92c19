CREATE TABLE trials (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  kind TEXT NOT NULL,
  name TEXT NOT NULL,
  printer_id INTEGER NOT NULL REFERENCES printers (id),
  spool_id INTEGER NOT NULL REFERENCES spools (id),
  layer_height_mm REAL NOT NULL,
  first_layer_height_mm REAL NOT NULL,
  plan TEXT NOT NULL CHECK (json_valid(plan)),
  fixed TEXT NOT NULL CHECK (json_valid(fixed)),
  created_at TEXT NOT NULL,
  updated_at TEXT NOT NULL,
  removed_at TEXT
);
CREATE INDEX trials_by_pair ON trials (printer_id, spool_id);
