-- Opened files, stored in chunks in this same database, so that one file is the whole backup.
CREATE TABLE files (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  name TEXT NOT NULL,
  -- receiving: bytes are still coming in; ready: read, with its report.
  state TEXT NOT NULL CHECK (state IN ('receiving', 'ready')),
  size_bytes INTEGER NOT NULL DEFAULT 0,
  printer_id INTEGER REFERENCES printers (id),
  report TEXT CHECK (report IS NULL OR json_valid(report)),
  summary TEXT CHECK (summary IS NULL OR json_valid(summary)),
  edits TEXT NOT NULL DEFAULT '[]' CHECK (json_valid(edits)),
  splices TEXT NOT NULL DEFAULT '[]' CHECK (json_valid(splices)),
  created_at TEXT NOT NULL,
  removed_at TEXT
);

CREATE TABLE file_chunks (
  file_id INTEGER NOT NULL REFERENCES files (id) ON DELETE CASCADE,
  start_byte INTEGER NOT NULL,
  bytes BLOB NOT NULL,
  UNIQUE (file_id, start_byte)
);
