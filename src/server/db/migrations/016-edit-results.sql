-- What a file's edits come to lies in blocks: however many lines they change, one place is looked at without what stands before it.
CREATE TABLE edit_results (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  file_id INTEGER NOT NULL REFERENCES files (id) ON DELETE CASCADE,
  begun_at TEXT NOT NULL
);

CREATE INDEX edit_results_of_file ON edit_results (file_id);

CREATE TABLE edit_blocks (
  result_id INTEGER NOT NULL REFERENCES edit_results (id) ON DELETE CASCADE,
  number INTEGER NOT NULL,
  -- How many changes, where the first of them stands, the last byte one of them reaches, and how many lines they add.
  count INTEGER NOT NULL,
  at_byte INTEGER NOT NULL,
  until_byte INTEGER NOT NULL,
  line INTEGER NOT NULL,
  longer_by INTEGER NOT NULL,
  bytes BLOB NOT NULL,
  PRIMARY KEY (result_id, number)
);

-- The result that counts; a newer one is whole before the file has it.
ALTER TABLE files ADD COLUMN edit_result_id INTEGER;
