-- `done` edits are in force; those after it have been undone and can be redone.
CREATE TABLE piece (
    id TEXT PRIMARY KEY,
    position INTEGER NOT NULL,
    document TEXT NOT NULL,
    revision INTEGER NOT NULL,
    done INTEGER NOT NULL DEFAULT 0,
    removed INTEGER NOT NULL DEFAULT 0
) STRICT;

CREATE TABLE edit (
    piece_id TEXT NOT NULL REFERENCES piece (id) ON DELETE CASCADE,
    number INTEGER NOT NULL,
    label TEXT NOT NULL,
    patch TEXT NOT NULL,
    inverse TEXT NOT NULL,
    PRIMARY KEY (piece_id, number)
) STRICT;

-- What each revision changed, whether by an edit, an undo or a redo.
CREATE TABLE revision (
    piece_id TEXT NOT NULL REFERENCES piece (id) ON DELETE CASCADE,
    revision INTEGER NOT NULL,
    label TEXT NOT NULL,
    patch TEXT NOT NULL,
    PRIMARY KEY (piece_id, revision)
) STRICT;
