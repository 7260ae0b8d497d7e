-- Moments as microseconds since 1970 UTC: text of different lengths does not sort.
ALTER TABLE arrival ADD COLUMN added_micros INTEGER NOT NULL DEFAULT 0;
UPDATE arrival SET added_micros = CAST(strftime('%s', substr(added_at, 1, 19)) AS INTEGER) * 1000000
    + CAST(substr(rtrim(substr(added_at, 21), 'Z') || '000000', 1, 6) AS INTEGER);
ALTER TABLE arrival DROP COLUMN added_at;
UPDATE taken_out SET columns = json_set(json_remove(columns, '$.added_at'), '$.added_micros',
        CAST(strftime('%s', substr(columns ->> 'added_at', 1, 19)) AS INTEGER) * 1000000
        + CAST(substr(rtrim(substr(columns ->> 'added_at', 21), 'Z') || '000000', 1, 6) AS INTEGER))
    WHERE of_table = 'arrival';

ALTER TABLE measurement ADD COLUMN measured_micros INTEGER NOT NULL DEFAULT 0;
UPDATE measurement SET measured_micros = CAST(strftime('%s', substr(measured_at, 1, 19)) AS INTEGER) * 1000000
    + CAST(substr(rtrim(substr(measured_at, 21), 'Z') || '000000', 1, 6) AS INTEGER);
ALTER TABLE measurement DROP COLUMN measured_at;

ALTER TABLE activity ADD COLUMN at_micros INTEGER NOT NULL DEFAULT 0;
UPDATE activity SET at_micros = CAST(strftime('%s', substr(at, 1, 19)) AS INTEGER) * 1000000
    + CAST(substr(rtrim(substr(at, 21), 'Z') || '000000', 1, 6) AS INTEGER);
ALTER TABLE activity DROP COLUMN at;

CREATE TABLE run_line_now (
    run_micros INTEGER NOT NULL, -- when the run began
    copy_id    TEXT NOT NULL,
    line       TEXT NOT NULL,    -- JSON
    position   INTEGER NOT NULL, -- the order in which copies came to their end
    PRIMARY KEY (run_micros, copy_id)
) WITHOUT ROWID;
INSERT OR REPLACE INTO run_line_now
    SELECT CAST(strftime('%s', substr(run, 1, 19)) AS INTEGER) * 1000000
        + CAST(substr(rtrim(substr(run, 21), 'Z') || '000000', 1, 6) AS INTEGER), copy_id, line,
        row_number() OVER (PARTITION BY run ORDER BY rowid)
    FROM run_line;
DROP TABLE run_line;
ALTER TABLE run_line_now RENAME TO run_line;

-- Who made a change, and where.
ALTER TABLE activity ADD COLUMN person TEXT NOT NULL DEFAULT '';
ALTER TABLE activity ADD COLUMN workstation TEXT NOT NULL DEFAULT '';

-- Originals that a workstation did not find as they were when it last looked; all others are online there.
CREATE TABLE presence (
    clip_id     TEXT NOT NULL REFERENCES clip (id) ON DELETE CASCADE,
    workstation TEXT NOT NULL,
    state       TEXT NOT NULL,
    note        TEXT NOT NULL,
    PRIMARY KEY (clip_id, workstation)
) WITHOUT ROWID;
INSERT INTO presence SELECT id, '${workstation}', presence, presence_note FROM clip WHERE presence <> 'ONLINE';
ALTER TABLE clip DROP COLUMN presence;
ALTER TABLE clip DROP COLUMN presence_note;
UPDATE taken_out SET columns = json_remove(columns, '$.presence', '$.presence_note') WHERE of_table = 'clip';

-- Finished copies that a workstation did not find as they were made when it last looked.
CREATE TABLE copy_presence (
    copy_id     TEXT NOT NULL REFERENCES copy (id) ON DELETE CASCADE,
    workstation TEXT NOT NULL,
    state       TEXT NOT NULL, -- MISSING or SUSPECT
    note        TEXT NOT NULL,
    PRIMARY KEY (copy_id, workstation)
) WITHOUT ROWID;
INSERT INTO copy_presence SELECT id, '${workstation}', state, note FROM copy WHERE state IN ('MISSING', 'SUSPECT');
UPDATE copy SET state = CASE WHEN holes THEN 'READY_WITH_HOLES' ELSE 'READY' END, note = 'as it was made'
    WHERE state IN ('MISSING', 'SUSPECT');

-- Which program wrote, so that others look again; the oldest lines go.
CREATE TABLE written (
    id      INTEGER PRIMARY KEY AUTOINCREMENT,
    program TEXT NOT NULL
);
