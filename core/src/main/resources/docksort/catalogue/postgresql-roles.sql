-- Roles for the shared project in the schema ${schema}. To be run once by who owns the schema and may make roles, and
-- again after an upgrade of the program:
--     dock-sort share --roles --project FOLDER | psql DATABASE
-- Then each login gets one of them, for instance: GRANT ${schema}_makes TO keeper;
--     ${schema}_sees     sees everything, and changes nothing
--     ${schema}_makes    plans and makes copies, switches timelines; takes in no footage and takes none out
--     ${schema}_changes  everything but bringing the tables up to date, which is the owner's
DO $$
DECLARE name TEXT;
BEGIN
    FOREACH name IN ARRAY ARRAY['${schema}_sees', '${schema}_makes', '${schema}_changes'] LOOP
        IF NOT EXISTS (SELECT 1 FROM pg_roles WHERE rolname = name) THEN
            EXECUTE format('CREATE ROLE %I NOLOGIN', name);
        END IF;
    END LOOP;
END $$;

GRANT USAGE ON SCHEMA "${schema}" TO ${schema}_sees;
GRANT SELECT ON ALL TABLES IN SCHEMA "${schema}" TO ${schema}_sees;

GRANT ${schema}_sees TO ${schema}_makes;
GRANT USAGE ON ALL SEQUENCES IN SCHEMA "${schema}" TO ${schema}_makes;
GRANT INSERT, UPDATE, DELETE ON
    "${schema}".setting, "${schema}".kept_file, "${schema}".root_path, "${schema}".presence, "${schema}".measurement, "${schema}".stand_in,
    "${schema}".used, "${schema}".choice, "${schema}".pin, "${schema}".said, "${schema}".cut_form, "${schema}".copy,
    "${schema}".copy_presence, "${schema}".run_line, "${schema}".activity, "${schema}".watched_place,
    "${schema}".place_taken, "${schema}".copy_claim, "${schema}".written, "${schema}".member, "${schema}".machine,
    "${schema}".machine_wish, "${schema}".reach, "${schema}".editing
    TO ${schema}_makes;

GRANT ${schema}_makes TO ${schema}_changes;
GRANT INSERT, UPDATE, DELETE ON
    "${schema}".root, "${schema}".arrival, "${schema}".clip, "${schema}".unreadable, "${schema}".seen,
    "${schema}".aside, "${schema}".taken_out
    TO ${schema}_changes;
