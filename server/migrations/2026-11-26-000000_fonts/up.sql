-- Fonts somebody brought, unpacked and checked.
CREATE TABLE fonts (
    id TEXT NOT NULL PRIMARY KEY,
    family TEXT NOT NULL,
    weight INTEGER NOT NULL,
    italic INTEGER NOT NULL,
    bytes BLOB NOT NULL,
    added_at INTEGER NOT NULL
) STRICT;
