-- Whole rows of what was taken out of the project, until that is taken back.
CREATE TABLE taken_out (
    change   TEXT NOT NULL,
    position INTEGER NOT NULL, -- the order in which they can be put back
    of_table TEXT NOT NULL,
    columns  TEXT NOT NULL,    -- JSON by name; bytes as Base64
    PRIMARY KEY (change, position)
) WITHOUT ROWID;
