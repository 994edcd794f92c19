-- Whether a reading says what the printer stores, not only what is in force.
ALTER TABLE value_snapshots ADD COLUMN stored INTEGER NOT NULL DEFAULT 0;

-- A change that was tried can be lost with the power before it was saved.
CREATE TABLE value_changes_now (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  printer_id INTEGER NOT NULL,
  value_id TEXT NOT NULL,
  from_value REAL,
  to_value REAL NOT NULL,
  line TEXT NOT NULL,
  -- Why: the trial or the tune it came from, or what was typed.
  why TEXT NOT NULL DEFAULT '',
  state TEXT NOT NULL CHECK (state IN ('tried', 'refused', 'saved', 'put back', 'lost')),
  changed_at TEXT NOT NULL
);
INSERT INTO value_changes_now SELECT * FROM value_changes;
DROP TABLE value_changes;
ALTER TABLE value_changes_now RENAME TO value_changes;
CREATE INDEX value_changes_by_printer ON value_changes (printer_id, id);
