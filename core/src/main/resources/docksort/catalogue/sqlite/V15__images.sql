-- Images are kept by their content as lookup tables are: each by the SHA-256 of what it holds, which is packed (gzip).
ALTER TABLE look_table RENAME TO kept_file;
ALTER TABLE kept_file ADD COLUMN kind TEXT NOT NULL DEFAULT 'TABLE';
