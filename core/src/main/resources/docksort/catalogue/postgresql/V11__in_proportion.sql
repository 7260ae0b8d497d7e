-- Which clips and copies changed in which turn of `written`, those that went too: who looks again reads only these. The
-- oldest lines go with those of `written`.
CREATE TABLE changed (
    of_table TEXT COLLATE "C" NOT NULL, -- clip or copy
    id       TEXT COLLATE "C" NOT NULL,
    turn     BIGINT NOT NULL,
    PRIMARY KEY (of_table, id)
);
CREATE INDEX changed_by_turn ON changed (of_table, turn);

-- Done by the schema's owner: who may change a row need not be let into this table.
CREATE FUNCTION note_changed() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path FROM CURRENT AS $$
BEGIN
    INSERT INTO changed (of_table, id, turn)
        SELECT TG_TABLE_NAME, rows.id, (SELECT coalesce(max(written.id), 0) FROM written) FROM rows
        ON CONFLICT (of_table, id) DO UPDATE SET turn = excluded.turn;
    RETURN NULL;
END $$;
CREATE FUNCTION note_copy_found() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path FROM CURRENT AS $$
BEGIN
    INSERT INTO changed (of_table, id, turn)
        SELECT DISTINCT 'copy', rows.copy_id, (SELECT coalesce(max(written.id), 0) FROM written) FROM rows
        ON CONFLICT (of_table, id) DO UPDATE SET turn = excluded.turn;
    RETURN NULL;
END $$;
CREATE FUNCTION forget_changed() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path FROM CURRENT AS $$
BEGIN
    DELETE FROM changed WHERE turn < (SELECT min(id) FROM written);
    RETURN NULL;
END $$;

CREATE TRIGGER clip_came AFTER INSERT ON clip REFERENCING NEW TABLE AS rows EXECUTE FUNCTION note_changed();
CREATE TRIGGER clip_changed AFTER UPDATE ON clip REFERENCING NEW TABLE AS rows EXECUTE FUNCTION note_changed();
CREATE TRIGGER clip_went AFTER DELETE ON clip REFERENCING OLD TABLE AS rows EXECUTE FUNCTION note_changed();
CREATE TRIGGER copy_came AFTER INSERT ON copy REFERENCING NEW TABLE AS rows EXECUTE FUNCTION note_changed();
CREATE TRIGGER copy_changed AFTER UPDATE ON copy REFERENCING NEW TABLE AS rows EXECUTE FUNCTION note_changed();
CREATE TRIGGER copy_went AFTER DELETE ON copy REFERENCING OLD TABLE AS rows EXECUTE FUNCTION note_changed();
CREATE TRIGGER found_came AFTER INSERT ON copy_presence REFERENCING NEW TABLE AS rows
    EXECUTE FUNCTION note_copy_found();
CREATE TRIGGER found_changed AFTER UPDATE ON copy_presence REFERENCING NEW TABLE AS rows
    EXECUTE FUNCTION note_copy_found();
CREATE TRIGGER found_went AFTER DELETE ON copy_presence REFERENCING OLD TABLE AS rows
    EXECUTE FUNCTION note_copy_found();
CREATE TRIGGER written_went AFTER DELETE ON written EXECUTE FUNCTION forget_changed();

-- Recipes that a workstation makes, as a JSON list; null for all.
ALTER TABLE machine_wish ADD COLUMN recipes TEXT;

-- How fast a workstation reads what lies below a root, in bytes per second, as it was last measured there.
CREATE TABLE reach (
    workstation      TEXT COLLATE "C" NOT NULL,
    root_id          TEXT COLLATE "C" NOT NULL REFERENCES root (id) ON DELETE CASCADE,
    bytes_per_second DOUBLE PRECISION NOT NULL,
    PRIMARY KEY (workstation, root_id)
);

-- What people have open to change it: a hint for others, and no lock. A line that is not renewed says nothing.
CREATE TABLE editing (
    worker      TEXT COLLATE "C" NOT NULL, -- one program, until it ends
    subject     TEXT COLLATE "C" NOT NULL,
    person      TEXT COLLATE "C" NOT NULL,
    workstation TEXT COLLATE "C" NOT NULL,
    seen_at     TIMESTAMPTZ NOT NULL,
    PRIMARY KEY (worker, subject)
);

-- Roles that were made for the tables before see these too, and write where they wrote what machines are asked for.
DO $$
DECLARE who RECORD;
BEGIN
    FOR who IN SELECT DISTINCT grantee, privilege_type AS may FROM information_schema.role_table_grants
        WHERE table_schema = current_schema() AND table_name = 'machine_wish'
            AND privilege_type IN ('SELECT', 'INSERT', 'UPDATE', 'DELETE') AND grantee NOT IN (current_user, 'PUBLIC')
    LOOP
        EXECUTE format('GRANT %s ON reach, editing TO %I', who.may, who.grantee);
        IF who.may = 'SELECT' THEN
            EXECUTE format('GRANT SELECT ON changed TO %I', who.grantee);
        END IF;
    END LOOP;
END $$;
