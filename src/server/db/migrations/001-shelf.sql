-- Printers and spools. `data` is the whole record as checked JSON; `name` stands apart for lists.
CREATE TABLE printers (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  name TEXT NOT NULL,
  data TEXT NOT NULL CHECK (json_valid(data)),
  created_at TEXT NOT NULL,
  updated_at TEXT NOT NULL,
  removed_at TEXT
);

CREATE TABLE spools (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  name TEXT NOT NULL,
  data TEXT NOT NULL CHECK (json_valid(data)),
  created_at TEXT NOT NULL,
  updated_at TEXT NOT NULL,
  removed_at TEXT
);

-- What lies on the bench: one row.
CREATE TABLE bench (
  id INTEGER PRIMARY KEY CHECK (id = 1),
  printer_id INTEGER REFERENCES printers (id),
  spool_id INTEGER REFERENCES spools (id)
);
INSERT INTO bench (id) VALUES (1);
