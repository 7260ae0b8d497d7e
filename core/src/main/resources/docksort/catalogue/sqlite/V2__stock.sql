-- Where a workstation sees a root, when that is not where it was first seen.
CREATE TABLE root_path (
    root_id     TEXT NOT NULL REFERENCES root (id) ON DELETE CASCADE,
    workstation TEXT NOT NULL,
    path        TEXT NOT NULL,
    PRIMARY KEY (root_id, workstation)
) WITHOUT ROWID;

-- The root an original lies below since it was found elsewhere; null for that of its arrival.
ALTER TABLE clip ADD COLUMN root_id TEXT REFERENCES root (id);

-- Mark of the recipe as it was when the copy was made, empty for an adopted one.
ALTER TABLE copy ADD COLUMN recipe_mark TEXT NOT NULL DEFAULT '';
-- Fingerprint of the finished file, to find it again; empty where it was not taken.
ALTER TABLE copy ADD COLUMN fingerprint TEXT NOT NULL DEFAULT '';
-- Whether it is kept without serving.
ALTER TABLE copy ADD COLUMN stopped INTEGER NOT NULL DEFAULT 0;
-- When a timeline was last switched to it, 0 for never.
ALTER TABLE copy ADD COLUMN served_millis INTEGER NOT NULL DEFAULT 0;
