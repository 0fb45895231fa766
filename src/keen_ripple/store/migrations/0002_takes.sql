-- Timings of a piece that were kept, to be compared with each other; they are no part of its history.
CREATE TABLE take (
    piece_id TEXT NOT NULL REFERENCES piece (id) ON DELETE CASCADE,
    number INTEGER NOT NULL,
    name TEXT NOT NULL,
    transitions TEXT NOT NULL,
    PRIMARY KEY (piece_id, number)
) STRICT;
