-- Carried over into edit_blocks.
ALTER TABLE files DROP COLUMN splices;
