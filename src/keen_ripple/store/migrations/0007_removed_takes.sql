-- A take that is deleted can be put back.
ALTER TABLE take ADD COLUMN removed INTEGER NOT NULL DEFAULT 0;
