-- Timings of what goes round on its own; takes that were kept before say nothing of it.
ALTER TABLE take ADD COLUMN undercurrents TEXT;
