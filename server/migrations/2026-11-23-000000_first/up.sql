CREATE TABLE jobs (
    id TEXT NOT NULL PRIMARY KEY,
    title TEXT NOT NULL,
    revision INTEGER NOT NULL,
    document TEXT NOT NULL,
    created_at INTEGER NOT NULL,
    changed_at INTEGER NOT NULL,
    removed_at INTEGER
) STRICT;

-- One row a step that can be undone; rows that were undone wait to be redone.
CREATE TABLE steps (
    job_id TEXT NOT NULL REFERENCES jobs (id) ON DELETE CASCADE,
    number INTEGER NOT NULL,
    gesture TEXT,
    forward TEXT NOT NULL,
    inverse TEXT NOT NULL,
    undone INTEGER NOT NULL,
    made_at INTEGER NOT NULL,
    PRIMARY KEY (job_id, number)
) STRICT;

CREATE TABLE pictures (
    id TEXT NOT NULL PRIMARY KEY,
    name TEXT NOT NULL,
    media_type TEXT NOT NULL,
    width INTEGER NOT NULL,
    height INTEGER NOT NULL,
    bytes BLOB NOT NULL,
    sample INTEGER NOT NULL,
    added_at INTEGER NOT NULL
) STRICT;
