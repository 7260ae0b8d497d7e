-- Lookup tables of three dimensions, by the SHA-256 of their own text, which is packed (gzip).
CREATE TABLE look_table (
    digest TEXT PRIMARY KEY,
    name   TEXT NOT NULL,
    packed BLOB NOT NULL
);
