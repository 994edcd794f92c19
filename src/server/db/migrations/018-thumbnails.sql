-- Small pictures of trials' pieces, files and sheets: made once, and anew when what they were made of has changed.
CREATE TABLE thumbnails (
  subject TEXT NOT NULL CHECK (subject IN ('trial', 'file', 'sheet', 'example')),
  subject_id INTEGER NOT NULL,
  -- A digest of everything the picture follows from.
  made_of TEXT NOT NULL,
  picture TEXT NOT NULL,
  PRIMARY KEY (subject, subject_id)
);

CREATE TRIGGER thumbnail_of_trial_goes AFTER DELETE ON trials
BEGIN DELETE FROM thumbnails WHERE subject = 'trial' AND subject_id = OLD.id; END;
CREATE TRIGGER thumbnail_of_file_goes AFTER DELETE ON files
BEGIN DELETE FROM thumbnails WHERE subject = 'file' AND subject_id = OLD.id; END;
CREATE TRIGGER thumbnail_of_sheet_goes AFTER DELETE ON sheets
BEGIN DELETE FROM thumbnails WHERE subject = 'sheet' AND subject_id = OLD.id; END;

-- The pieces of the first rounds of a pair, with their pictures: building them all takes seconds.
CREATE TABLE first_pieces (
  printer_id INTEGER NOT NULL REFERENCES printers (id) ON DELETE CASCADE,
  spool_id INTEGER NOT NULL REFERENCES spools (id) ON DELETE CASCADE,
  made_of TEXT NOT NULL,
  pieces TEXT NOT NULL,
  PRIMARY KEY (printer_id, spool_id)
);
