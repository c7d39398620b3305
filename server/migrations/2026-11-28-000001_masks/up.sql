-- Masks are pictures the program makes for a job; nobody looks for them on the shelf.
ALTER TABLE pictures ADD COLUMN shelved INTEGER NOT NULL DEFAULT 1;
