-- A job is kept in parts, so that an edit writes what it changes: `heading` is what stands above them.
CREATE TABLE parts (
    job_id TEXT NOT NULL REFERENCES jobs (id) ON DELETE CASCADE,
    kind TEXT NOT NULL CHECK (kind IN ('piece', 'kin')),
    id TEXT NOT NULL,
    document TEXT NOT NULL,
    PRIMARY KEY (job_id, kind, id)
) STRICT;

-- Whole documents of earlier moments.
CREATE TABLE states (
    job_id TEXT NOT NULL REFERENCES jobs (id) ON DELETE CASCADE,
    revision INTEGER NOT NULL,
    kept_at INTEGER NOT NULL,
    document TEXT NOT NULL,
    PRIMARY KEY (job_id, revision)
) STRICT;

ALTER TABLE jobs RENAME COLUMN document TO heading;
-- The form of the document; 0 where it could not be told.
ALTER TABLE jobs ADD COLUMN form INTEGER NOT NULL DEFAULT 0;
-- What the board shows of its sides.
ALTER TABLE jobs ADD COLUMN sheets TEXT NOT NULL DEFAULT '[]';

UPDATE jobs SET form = coalesce(json_extract(heading, '$.version'), 0)
WHERE json_valid(heading) AND json_type(heading, '$.job.pieces') = 'array';

INSERT OR IGNORE INTO parts (job_id, kind, id, document)
SELECT jobs.id, 'piece', json_extract(piece.value, '$.id'), piece.value
FROM jobs, json_each(CASE WHEN jobs.form > 0 THEN jobs.heading ELSE '{}' END, '$.job.pieces') AS piece;

INSERT OR IGNORE INTO parts (job_id, kind, id, document)
SELECT jobs.id, 'kin', kin.key, kin.value
FROM jobs, json_each(CASE WHEN jobs.form > 0 THEN jobs.heading ELSE '{}' END, '$.job.kins') AS kin;

UPDATE jobs SET
    sheets = (
        SELECT json_group_array(json_object(
            'piece', json_extract(piece.value, '$.id'),
            'side', json_extract(side.value, '$.id'),
            'name', json_extract(piece.value, '$.name'),
            'aspect', 1.0 * json_extract(piece.value, '$.format.size.w') / max(1, json_extract(piece.value, '$.format.size.h'))
        ))
        FROM json_each(jobs.heading, '$.job.pieces') AS piece, json_each(piece.value, '$.sides') AS side
    )
WHERE form > 0;

UPDATE jobs SET heading = json_object(
    'id', json_extract(heading, '$.job.id'),
    'title', json_extract(heading, '$.job.title'),
    'swatches', json(coalesce(json_extract(heading, '$.job.swatches'), '{}')),
    'pieces', (SELECT json_group_array(json_extract(piece.value, '$.id')) FROM json_each(jobs.heading, '$.job.pieces') AS piece)
)
WHERE form > 0;

-- What does a step again is only known once it has been taken back.
CREATE TABLE steps_2 (
    job_id TEXT NOT NULL REFERENCES jobs (id) ON DELETE CASCADE,
    number INTEGER NOT NULL,
    gesture TEXT,
    forward TEXT,
    inverse TEXT NOT NULL,
    undone INTEGER NOT NULL,
    made_at INTEGER NOT NULL,
    PRIMARY KEY (job_id, number)
) STRICT;
INSERT INTO steps_2 SELECT job_id, number, gesture, forward, inverse, undone, made_at FROM steps;
DROP TABLE steps;
ALTER TABLE steps_2 RENAME TO steps;

-- How the camera was held (EXIF, 1 is upright), and whether colours are those of a profile other than sRGB.
ALTER TABLE pictures ADD COLUMN orientation INTEGER NOT NULL DEFAULT 1;
ALTER TABLE pictures ADD COLUMN profiled INTEGER NOT NULL DEFAULT 0;
