-- What a device may do is one of three rights: read and mark, act on printers, all that the bench may.
ALTER TABLE devices ADD COLUMN may TEXT NOT NULL DEFAULT 'mark' CHECK (may IN ('mark', 'act', 'all'));
UPDATE devices SET may = 'act' WHERE may_act = 1;
ALTER TABLE devices DROP COLUMN may_act;
