-- XXH64 of all bytes of a copy's file when it was checked, empty where none was taken; when the file was last read whole,
-- 0 for never since; and whether that found other bytes.
ALTER TABLE copy ADD COLUMN whole_sum TEXT NOT NULL DEFAULT '';
ALTER TABLE copy ADD COLUMN read_millis INTEGER NOT NULL DEFAULT 0;
ALTER TABLE copy ADD COLUMN damaged BOOLEAN NOT NULL DEFAULT FALSE;
