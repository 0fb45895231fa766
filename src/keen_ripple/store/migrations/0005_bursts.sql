-- What is changed again and again in one go is one edit: those that follow each other with the same burst.
ALTER TABLE edit ADD COLUMN burst TEXT;
