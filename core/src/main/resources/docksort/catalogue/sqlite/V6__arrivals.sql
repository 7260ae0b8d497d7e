-- Clips and files that cannot be read that are kept, and are neither planned nor counted.
ALTER TABLE clip ADD COLUMN put_aside INTEGER NOT NULL DEFAULT 0;
ALTER TABLE unreadable ADD COLUMN put_aside INTEGER NOT NULL DEFAULT 0;

-- What decides how well a file stands in for another, by what the file holds.
CREATE TABLE stand_in (
    fingerprint TEXT PRIMARY KEY,
    traits      TEXT NOT NULL -- JSON
) WITHOUT ROWID;

-- Folders of a workstation that are watched for new folders, and the new ones that were taken from them.
CREATE TABLE watched_place (
    workstation TEXT NOT NULL,
    path        TEXT NOT NULL,
    PRIMARY KEY (workstation, path)
) WITHOUT ROWID;
CREATE TABLE place_taken (
    workstation TEXT NOT NULL,
    path        TEXT NOT NULL,
    PRIMARY KEY (workstation, path)
) WITHOUT ROWID;
