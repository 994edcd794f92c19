-- How many lines end in each chunk of a file, so that a window of its lines is found without reading what stands before it.
CREATE TABLE file_lines (
  file_id INTEGER NOT NULL REFERENCES files (id) ON DELETE CASCADE,
  start_byte INTEGER NOT NULL,
  line_ends INTEGER NOT NULL,
  PRIMARY KEY (file_id, start_byte)
) WITHOUT ROWID;

-- A program that was written here: it need not lay anything, and its text can be changed.
ALTER TABLE files ADD COLUMN written INTEGER NOT NULL DEFAULT 0 CHECK (written IN (0, 1));

-- Stacks of edits kept under a name, for the next file.
CREATE TABLE edit_sets (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  name TEXT NOT NULL,
  edits TEXT NOT NULL CHECK (json_valid(edits)),
  created_at TEXT NOT NULL,
  removed_at TEXT
);
