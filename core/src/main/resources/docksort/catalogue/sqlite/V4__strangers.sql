-- Whether a copy is of a damaged original and holds frames in place of others. It serves only when a person let it:
-- until then it counts as stopped.
ALTER TABLE copy ADD COLUMN holes INTEGER NOT NULL DEFAULT 0;
