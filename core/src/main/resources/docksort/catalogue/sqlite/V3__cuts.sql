-- Exceptions from the serving order, of whole clips (range_count 0) or where some frames are used.
CREATE TABLE pin (
    clip_id     TEXT NOT NULL REFERENCES clip (id) ON DELETE CASCADE,
    range_first INTEGER NOT NULL,
    range_count INTEGER NOT NULL,
    serving     TEXT NOT NULL,
    PRIMARY KEY (clip_id, range_first, range_count)
) WITHOUT ROWID;

-- Which recording somebody said a mention in a timeline means.
CREATE TABLE said (
    mention TEXT PRIMARY KEY,
    clip_id TEXT NOT NULL REFERENCES clip (id) ON DELETE CASCADE
) WITHOUT ROWID;

-- Rate, raster, aspect and colour of an original as they were when a timeline was last switched to its copies.
CREATE TABLE cut_form (
    clip_id TEXT PRIMARY KEY REFERENCES clip (id) ON DELETE CASCADE,
    form    TEXT NOT NULL
) WITHOUT ROWID;
