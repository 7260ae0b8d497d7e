package docksort.catalogue;

import com.zaxxer.hikari.HikariConfig;
import com.zaxxer.hikari.HikariDataSource;
import java.nio.file.Path;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.util.Map;
import java.util.Optional;
import java.util.Properties;
import java.util.UUID;
import org.flywaydb.core.Flyway;
import org.flywaydb.core.api.MigrationInfo;
import org.flywaydb.core.api.MigrationVersion;
import org.jdbi.v3.core.ConnectionException;
import org.jdbi.v3.core.Handle;
import org.jdbi.v3.core.HandleCallback;
import org.jdbi.v3.core.Jdbi;
import org.jdbi.v3.core.transaction.DelegatingTransactionHandler;
import org.jdbi.v3.core.transaction.LocalTransactionHandler;
import org.jdbi.v3.core.transaction.TransactionHandler;
import org.sqlite.SQLiteConfig;

/// What a catalogue stands on: a SQLite file, or a schema of a PostgreSQL database. On both a transaction
/// that writes takes its turn at its start, so that what it read holds until its end.
///
/// @param shared whether several workstations use it, so that no path of one stands for all
/// @param program names this program while it runs, among those that write
/// @param line opens a connection beside those of the pool
record Database(HikariDataSource source, Jdbi jdbi, boolean shared, String program, Overheard.Line line)
        implements AutoCloseable {
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

    /// What was moved elsewhere.
    static final class Moved extends RuntimeException {
        private static final long serialVersionUID = 1L;

        Moved(String address) {
            super("the project is shared now, at " + address);
        }
    }

    private static final int LINES = 10_000;

    /// Setting of a file whose project was moved into a database: its address.
    static final String SHARED_AT = "shared-at";

    /// Whether there has to be a project, or must be none.
    enum Wanted {
        ONE,
        NONE,
        EITHER
    }

    /// What is written by a program that is newer than this one.
    static final class TooNew extends RuntimeException {
        private static final long serialVersionUID = 1L;

        TooNew(MigrationVersion there, MigrationVersion here) {
            super("it has version " + there + ", this program knows " + here);
        }
    }

    static Database file(Path file, Desk desk) {
        var sqlite = new SQLiteConfig();
        sqlite.setJournalMode(SQLiteConfig.JournalMode.WAL);
        sqlite.setSynchronous(SQLiteConfig.SynchronousMode.NORMAL);
        sqlite.setBusyTimeout(15_000);
        sqlite.enforceForeignKeys(true);
        // A transaction that will write takes its turn at its start, so that two of them cannot block each other.
        sqlite.setTransactionMode(SQLiteConfig.TransactionMode.IMMEDIATE);
        HikariDataSource pool = pool("jdbc:sqlite:" + file.toAbsolutePath(), sqlite.toProperties(), 4, 4);
        Database opened = opened(
                pool,
                desk,
                () -> DriverManager.getConnection("jdbc:sqlite:" + file.toAbsolutePath(), sqlite.toProperties()),
                Flyway.configure().dataSource(pool).locations("classpath:docksort/catalogue/sqlite"),
                Wanted.EITHER);
        Optional<String> elsewhere =
                opened.jdbi.withHandle(h -> h.createQuery("SELECT value FROM setting WHERE name = :name")
                        .bind("name", SHARED_AT)
                        .mapTo(String.class)
                        .findOne());
        elsewhere.ifPresent(address -> {
            opened.close();
            throw new Moved(address);
        });
        return opened;
    }

    static Database server(SharedAddress address, Desk desk, Wanted wanted) {
        HikariDataSource pool = pool(address.jdbcUrl(), address.properties(desk), 8, 1);
        return opened(
                pool,
                desk,
                () -> DriverManager.getConnection(address.jdbcUrl(), address.properties(desk)),
                Flyway.configure()
                        .dataSource(pool)
                        .schemas(address.schema())
                        .locations("classpath:docksort/catalogue/postgresql"),
                wanted);
    }

    private static HikariDataSource pool(String url, Properties properties, int most, int idle) {
        var config = new HikariConfig();
        config.setJdbcUrl(url);
        config.setDataSourceProperties(properties);
        config.setMaximumPoolSize(most);
        config.setMinimumIdle(idle);
        config.setPoolName("catalogue");
        return new HikariDataSource(config);
    }

    private static Database opened(
            HikariDataSource pool,
            Desk desk,
            Overheard.Line line,
            org.flywaydb.core.api.configuration.FluentConfiguration versions,
            Wanted wanted) {
        try {
            migrate(
                    versions.placeholders(
                                    Map.of("workstation", desk.workstation().replace("'", "''")))
                            .load(),
                    wanted);
            boolean shared = wanted != Wanted.EITHER;
            String program = UUID.randomUUID().toString();
            Jdbi jdbi = Jdbi.create(pool);
            jdbi.useHandle(h ->
                    h.execute("DELETE FROM written WHERE id < (SELECT coalesce(max(id), 0) FROM written) - " + LINES));
            jdbi.setTransactionHandler(new Turns(LocalTransactionHandler.binding(), program, shared));
            return new Database(pool, jdbi, shared, program, line);
        } catch (RuntimeException e) {
            pool.close();
            throw e;
        }
    }

    private static void migrate(Flyway versions, Wanted wanted) {
        boolean isThere = versions.info().current() != null;
        if (wanted == Wanted.ONE && !isThere) {
            throw new Empty();
        }
        if (wanted == Wanted.NONE && isThere) {
            throw new Taken();
        }
        MigrationInfo[] known = versions.info().all();
        MigrationVersion newest = MigrationVersion.EMPTY;
        for (MigrationInfo one : known) {
            if (one.getState().isResolved()
                    && one.getVersion() != null
                    && one.getVersion().isNewerThan(newest)) {
                newest = one.getVersion();
            }
        }
        for (MigrationInfo one : known) {
            if (one.getState().isApplied()
                    && one.getVersion() != null
                    && one.getVersion().isNewerThan(newest)) {
                throw new TooNew(one.getVersion(), newest);
            }
        }
        versions.migrate();
    }

    /// Gives every transaction of a schema its turn, whoever asks for it, and lets others know of it. A file
    /// gives turns by itself.
    private static final class Turns extends DelegatingTransactionHandler {
        private final String program;
        private final boolean shared;

        Turns(TransactionHandler delegate, String program, boolean shared) {
            super(delegate);
            this.program = program;
            this.shared = shared;
        }

        @Override
        public <R, X extends Exception> R inTransaction(Handle handle, HandleCallback<R, X> callback) throws X {
            return super.inTransaction(handle, h -> {
                if (shared) {
                    h.execute("SELECT pg_advisory_xact_lock(hashtextextended('docksort ' || current_schema(), 0))");
                    h.execute("SELECT pg_notify(current_schema(), '')");
                }
                h.execute("INSERT INTO written (program) VALUES (?)", program);
                return callback.withHandle(h);
            });
        }

        @Override
        public TransactionHandler specialize(Handle handle) throws SQLException {
            return new Turns(getDelegate().specialize(handle), program, shared);
        }
    }

    /// Hears of what other programs write, until it is closed.
    Overheard overhear(Runnable heard) {
        try {
            return Overheard.begin(line, program, heard);
        } catch (SQLException e) {
            throw new ConnectionException(e);
        }
    }

    /// Lets ids go on behind those that came from elsewhere.
    void countOn(Handle h) {
        if (shared) {
            h.execute("SELECT setval(pg_get_serial_sequence('activity', 'id'),"
                    + " (SELECT coalesce(max(id), 0) + 1 FROM activity), false)");
        }
    }

    @Override
    public void close() {
        source.close();
    }
}
