-- Timings that were given a name, for every piece of the collection.
CREATE TABLE preset (
    name TEXT PRIMARY KEY,
    timing TEXT NOT NULL
) STRICT;
