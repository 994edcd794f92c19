-- A trial whose piece is a sheet of one's own, as it was when the trial was made of it.
ALTER TABLE trials ADD COLUMN sheet TEXT CHECK (sheet IS NULL OR json_valid(sheet));
