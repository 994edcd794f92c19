-- Lines inside moves are read from the file itself when an edit needs them.
ALTER TABLE files DROP COLUMN inside_moves;

-- The splices of a file are a set now, not a bare list.
UPDATE files SET splices = json_object('splices', json(splices));
