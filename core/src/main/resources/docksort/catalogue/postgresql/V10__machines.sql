-- Workstations that joined, each under a name of its own.
CREATE TABLE member (
    workstation   TEXT COLLATE "C" PRIMARY KEY,
    person        TEXT NOT NULL,
    joined_micros BIGINT NOT NULL
);
INSERT INTO member (workstation, person, joined_micros)
    SELECT DISTINCT workstation, '', 0 FROM root_path;

-- Programs that make copies, and what they do. Times are the server's own. What shows no life for a day is forgotten.
CREATE TABLE machine (
    worker            TEXT COLLATE "C" PRIMARY KEY, -- one program, as in copy_claim
    workstation       TEXT COLLATE "C" NOT NULL,
    doing             TEXT NOT NULL,
    making            INTEGER NOT NULL,
    workers           INTEGER NOT NULL,
    frames_per_second DOUBLE PRECISION NOT NULL,
    made              BIGINT NOT NULL,
    failed            BIGINT NOT NULL,
    seen_at           TIMESTAMPTZ NOT NULL
);

-- What somebody wants a workstation to do; without a row it works.
CREATE TABLE machine_wish (
    workstation TEXT COLLATE "C" PRIMARY KEY,
    wish        TEXT NOT NULL -- HOLD or DRAIN
);

-- The end of the queue is asked for while others wait for their turn.
CREATE INDEX copy_by_position ON copy (position);
