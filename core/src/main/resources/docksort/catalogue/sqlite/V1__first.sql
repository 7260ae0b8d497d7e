CREATE TABLE setting (
    name  TEXT PRIMARY KEY,
    value TEXT NOT NULL
);

CREATE TABLE root (
    id   TEXT PRIMARY KEY,
    name TEXT NOT NULL,
    path TEXT NOT NULL
);

CREATE TABLE arrival (
    id       TEXT PRIMARY KEY,
    root_id  TEXT NOT NULL REFERENCES root (id),
    path     TEXT NOT NULL, -- relative to the root
    name     TEXT NOT NULL,
    added_at TEXT NOT NULL, -- UTC, ISO 8601
    complete INTEGER NOT NULL DEFAULT 0, -- whether its scan has come to an end
    watched  INTEGER NOT NULL DEFAULT 0  -- whether new files are taken in by themselves
);

CREATE TABLE clip (
    id             TEXT PRIMARY KEY,
    arrival_id     TEXT NOT NULL REFERENCES arrival (id) ON DELETE CASCADE,
    path           TEXT NOT NULL, -- first or only file, relative to the root
    stills         TEXT,          -- JSON of the numbering where the clip is an image sequence
    parts          TEXT,          -- JSON list of all files where one recording spans several, relative to the root
    read_rate      TEXT,          -- how somebody said to read a clip that states no rate
    facts          TEXT NOT NULL, -- JSON
    structure      BLOB NOT NULL, -- coded frames, deflated
    fingerprint    TEXT NOT NULL,
    presence       TEXT NOT NULL DEFAULT 'ONLINE',
    presence_note  TEXT NOT NULL DEFAULT ''
);
CREATE INDEX clip_by_arrival ON clip (arrival_id);
CREATE INDEX clip_by_fingerprint ON clip (fingerprint);

CREATE TABLE unreadable (
    arrival_id TEXT NOT NULL REFERENCES arrival (id) ON DELETE CASCADE,
    path       TEXT NOT NULL, -- relative to the root
    problem    TEXT NOT NULL, -- JSON
    PRIMARY KEY (arrival_id, path)
);

-- What the directory listing said of every source that was looked into; while it stays so, nothing is read again.
CREATE TABLE seen (
    arrival_id      TEXT NOT NULL REFERENCES arrival (id) ON DELETE CASCADE,
    path            TEXT NOT NULL, -- relative to the root
    files           INTEGER NOT NULL,
    bytes           INTEGER NOT NULL,
    modified_millis INTEGER NOT NULL,
    PRIMARY KEY (arrival_id, path)
) WITHOUT ROWID;

-- Figures measured on one machine: they hold only there.
CREATE TABLE measurement (
    machine     TEXT NOT NULL,
    subject     TEXT NOT NULL, -- fingerprint of a clip
    kind        TEXT NOT NULL,
    figures     TEXT NOT NULL, -- JSON
    measured_at TEXT NOT NULL, -- UTC, ISO 8601
    PRIMARY KEY (machine, subject, kind)
);

-- What timelines use of clips, with handles, merged.
CREATE TABLE used (
    clip_id     TEXT NOT NULL REFERENCES clip (id) ON DELETE CASCADE,
    range_first INTEGER NOT NULL,
    range_count INTEGER NOT NULL,
    PRIMARY KEY (clip_id, range_first)
);

CREATE TABLE aside (
    arrival_id TEXT NOT NULL REFERENCES arrival (id) ON DELETE CASCADE,
    path       TEXT NOT NULL,
    PRIMARY KEY (arrival_id, path)
);

CREATE TABLE choice (
    clip_id TEXT PRIMARY KEY REFERENCES clip (id) ON DELETE CASCADE,
    recipes TEXT NOT NULL -- JSON list of recipe ids; an empty list leaves the clip as it is
);

CREATE TABLE copy (
    id                 TEXT PRIMARY KEY,
    clip_id            TEXT NOT NULL REFERENCES clip (id) ON DELETE CASCADE,
    kind               TEXT NOT NULL,
    recipe_id          TEXT NOT NULL, -- empty for an adopted copy
    root_id            TEXT NOT NULL REFERENCES root (id),
    path               TEXT NOT NULL, -- relative to the root
    state              TEXT NOT NULL,
    note               TEXT NOT NULL DEFAULT '',
    source_fingerprint TEXT NOT NULL,
    range_first        INTEGER NOT NULL DEFAULT 0,
    range_count        INTEGER NOT NULL DEFAULT 0, -- 0 for all of the clip
    bytes              INTEGER NOT NULL DEFAULT 0,
    modified_millis    INTEGER NOT NULL DEFAULT 0,
    width              INTEGER NOT NULL DEFAULT 0,
    height             INTEGER NOT NULL DEFAULT 0,
    codec              TEXT NOT NULL DEFAULT '',
    position           INTEGER NOT NULL DEFAULT 0
);
CREATE INDEX copy_by_clip ON copy (clip_id);
CREATE UNIQUE INDEX copy_by_place ON copy (root_id, path);

-- What became of copies in runs.
CREATE TABLE run_line (
    run     TEXT NOT NULL, -- when the run began, UTC, ISO 8601
    copy_id TEXT NOT NULL,
    line    TEXT NOT NULL, -- JSON
    PRIMARY KEY (run, copy_id)
);

CREATE TABLE activity (
    id     INTEGER PRIMARY KEY AUTOINCREMENT,
    at     TEXT NOT NULL,
    what   TEXT NOT NULL,
    undo   TEXT,              -- JSON of what takes it back, where that is possible
    undone INTEGER NOT NULL DEFAULT 0
);
