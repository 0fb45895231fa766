-- How long the run of a piece is and how long it loops, for the shelf; null until it has been worked out, and without
-- a loop.
ALTER TABLE piece ADD COLUMN total_ms INTEGER;
ALTER TABLE piece ADD COLUMN loop_ms INTEGER;
