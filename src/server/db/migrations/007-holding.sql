-- Every record that pages change says how often it was changed, so that nobody overwrites what he has not seen.
ALTER TABLE printers ADD COLUMN version INTEGER NOT NULL DEFAULT 1;
ALTER TABLE spools ADD COLUMN version INTEGER NOT NULL DEFAULT 1;
ALTER TABLE trials ADD COLUMN version INTEGER NOT NULL DEFAULT 1;
ALTER TABLE files ADD COLUMN version INTEGER NOT NULL DEFAULT 1;
ALTER TABLE bench ADD COLUMN version INTEGER NOT NULL DEFAULT 1;
ALTER TABLE kept_values ADD COLUMN version INTEGER NOT NULL DEFAULT 1;
ALTER TABLE measurements ADD COLUMN version INTEGER NOT NULL DEFAULT 1;
ALTER TABLE snippets ADD COLUMN version INTEGER NOT NULL DEFAULT 1;

-- The talk is kept thin: which job a line belongs to, and whether a job's lines were thinned already.
ALTER TABLE link_events ADD COLUMN job_id INTEGER;
CREATE INDEX link_events_by_job ON link_events (job_id, id) WHERE job_id IS NOT NULL;
ALTER TABLE jobs ADD COLUMN thinned INTEGER NOT NULL DEFAULT 0;

-- How much was said on each day, so that nobody has to count.
CREATE TABLE link_days (
  printer_id INTEGER NOT NULL,
  day TEXT NOT NULL,
  lines INTEGER NOT NULL,
  bytes INTEGER NOT NULL,
  PRIMARY KEY (printer_id, day)
) WITHOUT ROWID;
INSERT INTO link_days
  SELECT printer_id, date(at_ms / 1000, 'unixepoch', 'localtime') AS day, COUNT(*), SUM(length(text))
    FROM link_events GROUP BY printer_id, day;

-- What the user has chosen for the program as a whole.
CREATE TABLE preferences (
  key TEXT PRIMARY KEY,
  value TEXT NOT NULL CHECK (json_valid(value))
);

-- Devices of the home network that were let in, known by the hash of what they carry.
CREATE TABLE devices (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  name TEXT NOT NULL,
  token_hash TEXT NOT NULL UNIQUE,
  may_act INTEGER NOT NULL DEFAULT 0,
  version INTEGER NOT NULL DEFAULT 1,
  created_at TEXT NOT NULL,
  seen_at TEXT NOT NULL
);

-- Addresses the user has confirmed for a printer behind the network.
CREATE TABLE confirmed_addresses (
  printer_id INTEGER NOT NULL,
  address TEXT NOT NULL,
  confirmed_at TEXT NOT NULL,
  PRIMARY KEY (printer_id, address)
) WITHOUT ROWID;

-- What a console shows, found without passing over the lines of jobs.
CREATE INDEX link_events_typed ON link_events (printer_id, id) WHERE source NOT IN ('job', 'watch');
