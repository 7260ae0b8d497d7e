-- Lookup tables of three dimensions, by the SHA-256 of their own text, which is packed (gzip).
CREATE TABLE look_table (
    digest TEXT COLLATE "C" PRIMARY KEY,
    name   TEXT NOT NULL,
    packed BYTEA NOT NULL
);

-- Roles that were made for the tables before see this too, and write where they wrote settings.
DO $$
DECLARE who RECORD;
BEGIN
    FOR who IN SELECT DISTINCT grantee, privilege_type AS may FROM information_schema.role_table_grants
        WHERE table_schema = current_schema() AND table_name = 'setting'
            AND privilege_type IN ('SELECT', 'INSERT', 'UPDATE', 'DELETE') AND grantee NOT IN (current_user, 'PUBLIC')
    LOOP
        EXECUTE format('GRANT %s ON look_table TO %I', who.may, who.grantee);
    END LOOP;
END $$;
