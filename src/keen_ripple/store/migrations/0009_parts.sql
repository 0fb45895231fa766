-- Pictures, media and fonts, each once, whatever documents and edits hold it: these name it by its digest.
CREATE TABLE part (
    digest TEXT PRIMARY KEY,
    text TEXT NOT NULL
) STRICT;
