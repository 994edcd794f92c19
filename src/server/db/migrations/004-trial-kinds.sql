-- What a kind of trial leaves to choose, and the tool that prints it.
ALTER TABLE trials ADD COLUMN options TEXT NOT NULL DEFAULT '{}' CHECK (json_valid(options));
ALTER TABLE trials ADD COLUMN tool INTEGER NOT NULL DEFAULT 0;

-- Lines in which an opened file draws the filament back or restores it, for edits inside moves.
ALTER TABLE files ADD COLUMN inside_moves TEXT CHECK (inside_moves IS NULL OR json_valid(inside_moves));

-- Values kept for a printer and a spool: the newest one counts, the others are its history.
CREATE TABLE kept_values (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  printer_id INTEGER NOT NULL REFERENCES printers (id),
  spool_id INTEGER NOT NULL REFERENCES spools (id),
  setting TEXT NOT NULL,
  value REAL NOT NULL,
  -- The trial it came from, if it came from one.
  trial_id INTEGER REFERENCES trials (id),
  kept_at TEXT NOT NULL,
  removed_at TEXT
);
CREATE INDEX kept_values_by_pair ON kept_values (printer_id, spool_id);
