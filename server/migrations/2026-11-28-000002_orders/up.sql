-- Orders at a print shop: what was printed stays as it was, whatever becomes of the job.
CREATE TABLE orders (
    id TEXT PRIMARY KEY,
    job_id TEXT NOT NULL REFERENCES jobs (id) ON DELETE CASCADE,
    piece TEXT NOT NULL,
    revision INTEGER NOT NULL,
    document TEXT NOT NULL,
    pdf BLOB NOT NULL,
    said TEXT NOT NULL,
    placed_at INTEGER NOT NULL
) STRICT;

CREATE INDEX orders_of_a_job ON orders (job_id, placed_at);
