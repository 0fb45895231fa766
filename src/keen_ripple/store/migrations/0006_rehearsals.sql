-- What somebody did in a rehearsal, to be acted again; and what it came to when it was kept.
CREATE TABLE rehearsal (
    piece_id TEXT NOT NULL REFERENCES piece (id) ON DELETE CASCADE,
    number INTEGER NOT NULL,
    name TEXT NOT NULL,
    events TEXT NOT NULL,
    until_ms REAL NOT NULL,
    revision INTEGER NOT NULL,
    arrivals TEXT NOT NULL,
    PRIMARY KEY (piece_id, number)
) STRICT;
