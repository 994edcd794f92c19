-- Everything said on a link, in both directions, so that any day can be read again.
CREATE TABLE link_events (
  id INTEGER PRIMARY KEY,
  printer_id INTEGER NOT NULL,
  at_ms INTEGER NOT NULL,
  direction TEXT NOT NULL CHECK (direction IN ('out', 'in', 'note')),
  source TEXT NOT NULL,
  text TEXT NOT NULL
);
CREATE INDEX link_events_by_printer ON link_events (printer_id, id);

-- What a simulated printer has saved in itself.
CREATE TABLE simulator_memory (
  printer_id INTEGER PRIMARY KEY,
  saved TEXT NOT NULL CHECK (json_valid(saved))
);

-- Readings of a printer's values.
CREATE TABLE value_snapshots (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  printer_id INTEGER NOT NULL,
  taken_at TEXT NOT NULL,
  -- Entries, other lines, identity.
  reading TEXT NOT NULL CHECK (json_valid(reading))
);
CREATE INDEX value_snapshots_by_printer ON value_snapshots (printer_id, id);

-- Every change of a firmware value that was tried, and what became of it.
CREATE TABLE value_changes (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  printer_id INTEGER NOT NULL,
  value_id TEXT NOT NULL,
  from_value REAL,
  to_value REAL NOT NULL,
  line TEXT NOT NULL,
  -- Why: the trial or the tune it came from, or what was typed.
  why TEXT NOT NULL DEFAULT '',
  state TEXT NOT NULL CHECK (state IN ('tried', 'refused', 'saved', 'put back')),
  changed_at TEXT NOT NULL
);
CREATE INDEX value_changes_by_printer ON value_changes (printer_id, id);

-- Lines kept for the console.
CREATE TABLE snippets (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  name TEXT NOT NULL,
  lines TEXT NOT NULL
);

-- Results of measured tunes.
CREATE TABLE measurements (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  printer_id INTEGER NOT NULL,
  spool_id INTEGER,
  tune TEXT NOT NULL,
  -- What was measured and what came of it.
  result TEXT NOT NULL CHECK (json_valid(result)),
  measured_at TEXT NOT NULL
);
CREATE INDEX measurements_by_printer ON measurements (printer_id, id);

-- Jobs sent over a link, with how far they came and what the printer was last told.
CREATE TABLE jobs (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  printer_id INTEGER NOT NULL,
  source TEXT NOT NULL CHECK (source IN ('trial', 'file')),
  source_id INTEGER NOT NULL,
  name TEXT NOT NULL,
  state TEXT NOT NULL CHECK (state IN ('running', 'paused', 'done', 'cancelled', 'broken')),
  total_lines INTEGER NOT NULL,
  lines_taken INTEGER NOT NULL DEFAULT 0,
  height_mm REAL NOT NULL DEFAULT 0,
  -- What the printer was told up to there.
  told TEXT NOT NULL DEFAULT '{}' CHECK (json_valid(told)),
  why TEXT NOT NULL DEFAULT '',
  started_at TEXT NOT NULL,
  ended_at TEXT,
  seen INTEGER NOT NULL DEFAULT 0
);
CREATE INDEX jobs_by_printer ON jobs (printer_id, id);

-- Settings changed by hand while a job ran, at their height.
CREATE TABLE job_marks (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  job_id INTEGER NOT NULL REFERENCES jobs (id),
  height_mm REAL NOT NULL,
  setting TEXT NOT NULL,
  value REAL NOT NULL,
  made_at TEXT NOT NULL
);
