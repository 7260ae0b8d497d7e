package docksort.catalogue;

import docksort.catalogue.Database.Wanted;
import java.util.List;
import org.flywaydb.core.Flyway;
import org.flywaydb.core.api.MigrationInfo;
import org.flywaydb.core.api.MigrationVersion;
import org.jdbi.v3.core.Jdbi;

/// Makes the tables of a catalogue, and brings older ones up to date while nobody else has them open.
final class TableVersions {
    private final Flyway versions;
    private final Jdbi jdbi;
    private final String program;

    TableVersions(Flyway versions, Jdbi jdbi, String program) {
        this.versions = versions;
        this.jdbi = jdbi;
        this.program = program;
    }

    /// What no project is in.
    static final class Empty extends RuntimeException {
        private static final long serialVersionUID = 1L;

        Empty() {
            super("no project is in it");
        }
    }

    /// Where a project is already.
    static final class Taken extends RuntimeException {
        private static final long serialVersionUID = 1L;

        Taken() {
            super("there is something already");
        }
    }

    /// What is written by a program that is newer than this one.
    static final class TooNew extends RuntimeException {
        private static final long serialVersionUID = 1L;

        TooNew(MigrationVersion there, MigrationVersion here) {
            super("it has version " + there + ", this program knows " + here);
        }
    }

    /// What older programs work with at this moment.
    static final class InUse extends RuntimeException {
        private static final long serialVersionUID = 1L;

        InUse(List<String> workstations) {
            super("it has to be brought up to date, and is open on " + String.join(", ", workstations));
        }
    }

    void bringUpToDate(Wanted wanted) {
        boolean isThere = versions.info().current() != null;
        if (wanted == Wanted.ONE && !isThere) {
            throw new Empty();
        }
        MigrationVersion newest = newest();
        for (MigrationInfo one : versions.info().all()) {
            if (one.getState().isApplied()
                    && one.getVersion() != null
                    && one.getVersion().isNewerThan(newest)) {
                throw new TooNew(one.getVersion(), newest);
            }
        }
        if (wanted == Wanted.NONE && isThere && !(versions.info().pending().length == 0 && isUnused())) {
            throw new Taken();
        }
        if (versions.info().pending().length == 0) {
            return; // who only looks may not even try
        }
        if (wanted == Wanted.ONE) {
            List<String> others = others();
            if (!others.isEmpty()) {
                throw new InUse(others);
            }
        }
        versions.migrate();
    }

    private MigrationVersion newest() {
        MigrationVersion newest = MigrationVersion.EMPTY;
        for (MigrationInfo one : versions.info().all()) {
            if (one.getState().isResolved()
                    && one.getVersion() != null
                    && one.getVersion().isNewerThan(newest)) {
                newest = one.getVersion();
            }
        }
        return newest;
    }

    /// Whether somebody began here and nothing came of it.
    private boolean isUnused() {
        return jdbi.withHandle(h -> h.createQuery("SELECT NOT EXISTS (SELECT 1 FROM root)"
                        + " AND NOT EXISTS (SELECT 1 FROM activity) AND NOT EXISTS (SELECT 1 FROM member)")
                .mapTo(Boolean.class)
                .one());
    }

    /// Workstations of other programs that have this schema open, by the names of their connections.
    private List<String> others() {
        return jdbi.withHandle(h -> h.createQuery("""
            SELECT DISTINCT substr(application_name, :behind + length(:schema))
            FROM pg_stat_activity
            WHERE datname = current_database() AND application_name LIKE 'dock-sort %'
                AND starts_with(substr(application_name, :mark), :schema) AND NOT starts_with(application_name, :own)
            ORDER BY 1\
            """)
                .bind("schema", " " + currentSchema() + " ")
                .bind("mark", SharedAddress.programName(program).length() + 1)
                .bind("behind", SharedAddress.programName(program).length() + 1)
                .bind("own", SharedAddress.programName(program))
                .mapTo(String.class)
                .list());
    }

    private String currentSchema() {
        return jdbi.withHandle(h ->
                h.createQuery("SELECT current_schema()").mapTo(String.class).one());
    }
}
