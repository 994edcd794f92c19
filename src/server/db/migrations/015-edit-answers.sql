-- What came of a file's edits, beside their splices, and what it holds for: it is worked out when they change, not when they are looked at.
ALTER TABLE files ADD COLUMN edit_answer TEXT CHECK (edit_answer IS NULL OR json_valid(edit_answer));
ALTER TABLE files ADD COLUMN edit_answer_for TEXT;
