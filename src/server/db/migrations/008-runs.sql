-- Printed pieces. A run keeps the trial it was printed with, whatever becomes of the trial.
CREATE TABLE runs (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  trial_id INTEGER NOT NULL,
  trial TEXT NOT NULL CHECK (json_valid(trial)),
  printer TEXT NOT NULL CHECK (json_valid(printer)),
  spool_title TEXT NOT NULL,
  way TEXT NOT NULL CHECK (way IN ('link', 'card')),
  job_id INTEGER UNIQUE,
  -- Null: printed whole.
  reached_mm REAL,
  hash TEXT NOT NULL,
  told TEXT NOT NULL CHECK (json_valid(told)),
  by_hand TEXT NOT NULL CHECK (json_valid(by_hand)),
  note TEXT NOT NULL DEFAULT '',
  printed_at TEXT NOT NULL,
  version INTEGER NOT NULL DEFAULT 1,
  removed_at TEXT
);
CREATE INDEX runs_by_trial ON runs (trial_id, id);

-- What each reader marked and measured of a run.
CREATE TABLE readings (
  run_id INTEGER NOT NULL REFERENCES runs (id),
  reader TEXT NOT NULL,
  marks TEXT NOT NULL CHECK (json_valid(marks)),
  measures TEXT NOT NULL CHECK (json_valid(measures)),
  note TEXT NOT NULL DEFAULT '',
  read_at TEXT NOT NULL,
  PRIMARY KEY (run_id, reader)
) WITHOUT ROWID;

-- Where a kept value comes from, and what cannot be told from it.
ALTER TABLE kept_values ADD COLUMN from_value REAL;
ALTER TABLE kept_values ADD COLUMN to_value REAL;
ALTER TABLE kept_values ADD COLUMN run_id INTEGER;

-- The chain of rounds: from which trial a trial goes on, and in which round it is.
ALTER TABLE trials ADD COLUMN from_trial INTEGER;
ALTER TABLE trials ADD COLUMN round INTEGER NOT NULL DEFAULT 1;
