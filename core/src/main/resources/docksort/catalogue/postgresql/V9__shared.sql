-- The catalogue of a shared project. The same tables and columns as in a file, so that rows go from one to the other;
-- versions go on together. Text sorts by its code points in both.
CREATE TABLE setting (
    name  TEXT COLLATE "C" PRIMARY KEY,
    value TEXT NOT NULL
);

CREATE TABLE root (
    id   TEXT COLLATE "C" PRIMARY KEY,
    name TEXT COLLATE "C" NOT NULL,
    path TEXT COLLATE "C" NOT NULL
);

-- Where a workstation sees a root.
CREATE TABLE root_path (
    root_id     TEXT COLLATE "C" NOT NULL REFERENCES root (id) ON DELETE CASCADE,
    workstation TEXT COLLATE "C" NOT NULL,
    path        TEXT COLLATE "C" NOT NULL,
    PRIMARY KEY (root_id, workstation)
);

CREATE TABLE arrival (
    id           TEXT COLLATE "C" PRIMARY KEY,
    root_id      TEXT COLLATE "C" NOT NULL REFERENCES root (id),
    path         TEXT COLLATE "C" NOT NULL, -- relative to the root
    name         TEXT COLLATE "C" NOT NULL,
    added_micros BIGINT NOT NULL,
    complete     BOOLEAN NOT NULL DEFAULT FALSE, -- whether its scan has come to an end
    watched      BOOLEAN NOT NULL DEFAULT FALSE  -- whether new files are taken in by themselves
);
CREATE INDEX arrival_by_root ON arrival (root_id);

CREATE TABLE clip (
    id          TEXT COLLATE "C" PRIMARY KEY,
    arrival_id  TEXT COLLATE "C" NOT NULL REFERENCES arrival (id) ON DELETE CASCADE,
    path        TEXT COLLATE "C" NOT NULL, -- first or only file, relative to the root
    stills      TEXT,                      -- JSON of the numbering where the clip is an image sequence
    parts       TEXT,                      -- JSON list of all files where one recording spans several
    read_rate   TEXT,                      -- how somebody said to read a clip that states no rate
    facts       TEXT NOT NULL,             -- JSON
    structure   BYTEA NOT NULL,            -- coded frames, deflated
    fingerprint TEXT COLLATE "C" NOT NULL,
    root_id     TEXT COLLATE "C" REFERENCES root (id), -- null for that of its arrival
    put_aside   BOOLEAN NOT NULL DEFAULT FALSE,
    described   TEXT                       -- JSON of what somebody said of it
);
CREATE INDEX clip_by_arrival ON clip (arrival_id);
CREATE INDEX clip_by_fingerprint ON clip (fingerprint);

-- Originals that a workstation did not find as they were when it last looked; all others are online there.
CREATE TABLE presence (
    clip_id     TEXT COLLATE "C" NOT NULL REFERENCES clip (id) ON DELETE CASCADE,
    workstation TEXT COLLATE "C" NOT NULL,
    state       TEXT NOT NULL,
    note        TEXT NOT NULL,
    PRIMARY KEY (clip_id, workstation)
);

CREATE TABLE unreadable (
    arrival_id TEXT COLLATE "C" NOT NULL REFERENCES arrival (id) ON DELETE CASCADE,
    path       TEXT COLLATE "C" NOT NULL, -- relative to the root
    problem    TEXT NOT NULL,             -- JSON
    put_aside  BOOLEAN NOT NULL DEFAULT FALSE,
    PRIMARY KEY (arrival_id, path)
);

-- What the directory listing said of every source that was looked into; while it stays so, nothing is read again.
CREATE TABLE seen (
    arrival_id      TEXT COLLATE "C" NOT NULL REFERENCES arrival (id) ON DELETE CASCADE,
    path            TEXT COLLATE "C" NOT NULL, -- relative to the root
    files           BIGINT NOT NULL,
    bytes           BIGINT NOT NULL,
    modified_millis BIGINT NOT NULL,
    PRIMARY KEY (arrival_id, path)
);

-- Files that are not footage.
CREATE TABLE aside (
    arrival_id TEXT COLLATE "C" NOT NULL REFERENCES arrival (id) ON DELETE CASCADE,
    path       TEXT COLLATE "C" NOT NULL,
    PRIMARY KEY (arrival_id, path)
);

-- Figures measured on one machine: they hold only there.
CREATE TABLE measurement (
    machine         TEXT COLLATE "C" NOT NULL,
    subject         TEXT COLLATE "C" NOT NULL, -- fingerprint of a clip
    kind            TEXT COLLATE "C" NOT NULL,
    figures         TEXT NOT NULL,             -- JSON
    measured_micros BIGINT NOT NULL,
    PRIMARY KEY (machine, subject, kind)
);

-- What decides how well a file stands in for another, by what the file holds.
CREATE TABLE stand_in (
    fingerprint TEXT COLLATE "C" PRIMARY KEY,
    traits      TEXT NOT NULL -- JSON
);

-- What timelines use of clips, with handles, merged.
CREATE TABLE used (
    clip_id     TEXT COLLATE "C" NOT NULL REFERENCES clip (id) ON DELETE CASCADE,
    range_first BIGINT NOT NULL,
    range_count BIGINT NOT NULL,
    PRIMARY KEY (clip_id, range_first)
);

CREATE TABLE choice (
    clip_id TEXT COLLATE "C" PRIMARY KEY REFERENCES clip (id) ON DELETE CASCADE,
    recipes TEXT NOT NULL -- JSON list of recipe ids; an empty list leaves the clip as it is
);

-- Exceptions from the serving order, of whole clips (range_count 0) or where some frames are used.
CREATE TABLE pin (
    clip_id     TEXT COLLATE "C" NOT NULL REFERENCES clip (id) ON DELETE CASCADE,
    range_first BIGINT NOT NULL,
    range_count BIGINT NOT NULL,
    serving     TEXT NOT NULL,
    PRIMARY KEY (clip_id, range_first, range_count)
);

-- Which recording somebody said a mention in a timeline means.
CREATE TABLE said (
    mention TEXT COLLATE "C" PRIMARY KEY,
    clip_id TEXT COLLATE "C" NOT NULL REFERENCES clip (id) ON DELETE CASCADE
);
CREATE INDEX said_by_clip ON said (clip_id);

-- Rate, raster, aspect and colour of an original as they were when a timeline was last switched to its copies.
CREATE TABLE cut_form (
    clip_id TEXT COLLATE "C" PRIMARY KEY REFERENCES clip (id) ON DELETE CASCADE,
    form    TEXT NOT NULL
);

CREATE TABLE copy (
    id                 TEXT COLLATE "C" PRIMARY KEY,
    clip_id            TEXT COLLATE "C" NOT NULL REFERENCES clip (id) ON DELETE CASCADE,
    kind               TEXT NOT NULL,
    recipe_id          TEXT COLLATE "C" NOT NULL, -- empty for an adopted copy
    root_id            TEXT COLLATE "C" NOT NULL REFERENCES root (id),
    path               TEXT COLLATE "C" NOT NULL, -- relative to the root
    state              TEXT NOT NULL,
    note               TEXT NOT NULL DEFAULT '',
    source_fingerprint TEXT COLLATE "C" NOT NULL,
    range_first        BIGINT NOT NULL DEFAULT 0,
    range_count        BIGINT NOT NULL DEFAULT 0, -- 0 for all of the clip
    bytes              BIGINT NOT NULL DEFAULT 0,
    modified_millis    BIGINT NOT NULL DEFAULT 0,
    width              INTEGER NOT NULL DEFAULT 0,
    height             INTEGER NOT NULL DEFAULT 0,
    codec              TEXT NOT NULL DEFAULT '',
    position           BIGINT NOT NULL DEFAULT 0,
    recipe_mark        TEXT NOT NULL DEFAULT '',      -- mark of the recipe when it was made
    fingerprint        TEXT NOT NULL DEFAULT '',      -- of the finished file
    stopped            BOOLEAN NOT NULL DEFAULT FALSE, -- whether it is kept without serving
    served_millis      BIGINT NOT NULL DEFAULT 0,     -- when a timeline was last switched to it
    holes              BOOLEAN NOT NULL DEFAULT FALSE, -- whether it holds frames in place of damaged ones
    on_trust           BOOLEAN NOT NULL DEFAULT FALSE  -- whether it is one by somebody's word alone
);
CREATE INDEX copy_by_clip ON copy (clip_id);
CREATE UNIQUE INDEX copy_by_place ON copy (root_id, path);

-- Finished copies that a workstation did not find as they were made when it last looked.
CREATE TABLE copy_presence (
    copy_id     TEXT COLLATE "C" NOT NULL REFERENCES copy (id) ON DELETE CASCADE,
    workstation TEXT COLLATE "C" NOT NULL,
    state       TEXT NOT NULL, -- MISSING or SUSPECT
    note        TEXT NOT NULL,
    PRIMARY KEY (copy_id, workstation)
);

-- What became of copies in runs.
CREATE TABLE run_line (
    run_micros BIGINT NOT NULL, -- when the run began
    copy_id    TEXT COLLATE "C" NOT NULL,
    line       TEXT NOT NULL,   -- JSON
    position   BIGINT NOT NULL, -- the order in which copies came to their end
    PRIMARY KEY (run_micros, copy_id)
);

CREATE TABLE activity (
    id          BIGINT GENERATED BY DEFAULT AS IDENTITY PRIMARY KEY,
    at_micros   BIGINT NOT NULL,
    what        TEXT NOT NULL,
    undo        TEXT, -- JSON of what takes it back, where that is possible
    undone      BOOLEAN NOT NULL DEFAULT FALSE,
    redo        TEXT, -- JSON of what does it again when it was taken back
    person      TEXT COLLATE "C" NOT NULL DEFAULT '',
    workstation TEXT COLLATE "C" NOT NULL DEFAULT ''
);
CREATE INDEX activity_undoable ON activity (id) WHERE undo IS NOT NULL AND NOT undone;
CREATE INDEX activity_to_do_again ON activity (id) WHERE redo IS NOT NULL;

-- Whole rows of what was taken out of the project, until that is taken back.
CREATE TABLE taken_out (
    change   TEXT COLLATE "C" NOT NULL,
    position BIGINT NOT NULL, -- the order in which they can be put back
    of_table TEXT NOT NULL,
    columns  TEXT NOT NULL,   -- JSON by name; bytes as Base64
    PRIMARY KEY (change, position)
);

-- Folders of a workstation that are watched for new folders, and the new ones that were taken from them.
CREATE TABLE watched_place (
    workstation TEXT COLLATE "C" NOT NULL,
    path        TEXT COLLATE "C" NOT NULL,
    PRIMARY KEY (workstation, path)
);
CREATE TABLE place_taken (
    workstation TEXT COLLATE "C" NOT NULL,
    path        TEXT COLLATE "C" NOT NULL,
    PRIMARY KEY (workstation, path)
);

-- Who makes which copy. A row that was not renewed for a while is of a machine that stopped: another may take it over,
-- with a token that is greater. Times are the server's own.
CREATE SEQUENCE claim_token;
CREATE TABLE copy_claim (
    copy_id     TEXT COLLATE "C" PRIMARY KEY REFERENCES copy (id) ON DELETE CASCADE,
    workstation TEXT COLLATE "C" NOT NULL,
    worker      TEXT COLLATE "C" NOT NULL, -- one program, until it ends
    token       BIGINT NOT NULL,
    renewed_at  TIMESTAMPTZ NOT NULL
);
CREATE INDEX copy_claim_by_worker ON copy_claim (worker);

-- Which program wrote, so that others look again; the oldest lines go. Writers take turns, so that ids come in order.
CREATE TABLE written (
    id      BIGINT GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    program TEXT COLLATE "C" NOT NULL
);
