-- What somebody said of a recording that cannot be decoded here.
ALTER TABLE clip ADD COLUMN described TEXT; -- JSON

-- Copies that are one by somebody's word alone.
ALTER TABLE copy ADD COLUMN on_trust INTEGER NOT NULL DEFAULT 0;
