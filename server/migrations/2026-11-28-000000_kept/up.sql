-- What people keep for all their jobs: words, sets of places, formats, how files are named.
CREATE TABLE kept (
    kind TEXT NOT NULL,
    name TEXT NOT NULL,
    document TEXT NOT NULL,
    kept_at INTEGER NOT NULL,
    PRIMARY KEY (kind, name)
) STRICT;

-- What was fetched of a piece last, and how the piece looked then.
CREATE TABLE handed (
    job_id TEXT NOT NULL REFERENCES jobs (id) ON DELETE CASCADE,
    piece_id TEXT NOT NULL,
    looked TEXT NOT NULL,
    files TEXT NOT NULL,
    handed_at INTEGER NOT NULL,
    PRIMARY KEY (job_id, piece_id)
) STRICT;
