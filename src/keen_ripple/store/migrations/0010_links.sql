-- Addresses under which pieces are shown to whoever knows them.
CREATE TABLE link (
    piece_id TEXT PRIMARY KEY REFERENCES piece (id) ON DELETE CASCADE,
    token TEXT NOT NULL UNIQUE
) STRICT;
