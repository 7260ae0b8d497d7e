package docksort.catalogue;

import com.zaxxer.hikari.HikariConfig;
import com.zaxxer.hikari.HikariDataSource;
import java.nio.file.Path;
import java.sql.DriverManager;
import java.time.Duration;
import java.util.Map;
import java.util.Optional;
import java.util.Properties;
import java.util.UUID;
import org.flywaydb.core.Flyway;
import org.flywaydb.core.api.configuration.FluentConfiguration;
import org.jdbi.v3.core.Handle;
import org.jdbi.v3.core.Jdbi;
import org.sqlite.SQLiteConfig;

/// What a catalogue stands on: a SQLite file, or a schema of a PostgreSQL database. On both a transaction
/// that writes takes its turn at its start, so that what it read holds until its end.
///
/// @param shared whether several workstations use it, so that no path of one stands for all
/// @param mayChange whether the role of who is connected may change anything
/// @param program names this program while it runs, among those that write
/// @param line opens a connection beside those of the pool
record Database(
        HikariDataSource source, Access access, boolean shared, boolean mayChange, String program, Overheard.Line line)
        implements AutoCloseable {
    /// What was moved elsewhere.
    static final class Moved extends RuntimeException {
        private static final long serialVersionUID = 1L;

        Moved(String address) {
            super("the project is shared now, at " + address);
        }
    }

    /// How many turns are remembered at least.
    static final int LINES = 10_000;

    private static final String LISTENING_SECONDS = "15";

    /// Setting of a file whose project was moved into a database: its address.
    static final String SHARED_AT = "shared-at";

    /// Whether there has to be a project, or must be none.
    enum Wanted {
        ONE,
        NONE,
        EITHER
    }

    static Database file(Path file, Desk desk) {
        var sqlite = new SQLiteConfig();
        sqlite.setJournalMode(SQLiteConfig.JournalMode.WAL);
        sqlite.setSynchronous(SQLiteConfig.SynchronousMode.NORMAL);
        sqlite.setBusyTimeout(15_000);
        sqlite.enforceForeignKeys(true);
        // A transaction that will write takes its turn at its start, so that two of them cannot block each other.
        sqlite.setTransactionMode(SQLiteConfig.TransactionMode.IMMEDIATE);
        HikariDataSource pool =
                pool("jdbc:sqlite:" + file.toAbsolutePath(), sqlite.toProperties(), 4, 4, Duration.ofSeconds(30));
        Database opened = opened(
                pool,
                desk,
                UUID.randomUUID().toString(),
                () -> DriverManager.getConnection("jdbc:sqlite:" + file.toAbsolutePath(), sqlite.toProperties()),
                Flyway.configure(Database.class.getClassLoader())
                        .dataSource(pool)
                        .locations("classpath:docksort/catalogue/sqlite"),
                Wanted.EITHER);
        Optional<String> elsewhere =
                opened.access.withHandle(h -> h.createQuery("SELECT value FROM setting WHERE name = :name")
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
        String program = UUID.randomUUID().toString();
        Properties properties = address.properties(desk, program, desk.password());
        HikariDataSource pool = pool(address.jdbcUrl(), properties, 8, 1, address.patience());
        return opened(
                pool,
                desk,
                program,
                () -> {
                    Properties listening = address.properties(desk, program, desk.password());
                    listening.setProperty("socketTimeout", LISTENING_SECONDS);
                    return DriverManager.getConnection(address.jdbcUrl(), listening);
                },
                Flyway.configure(Database.class.getClassLoader())
                        .dataSource(pool)
                        .schemas(address.schema())
                        .locations("classpath:docksort/catalogue/postgresql"),
                wanted);
    }

    private static HikariDataSource pool(String url, Properties properties, int most, int idle, Duration patience) {
        var config = new HikariConfig();
        config.setConnectionTimeout(patience.toMillis());
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
            String program,
            Overheard.Line line,
            FluentConfiguration tables,
            Wanted wanted) {
        try {
            boolean shared = wanted != Wanted.EITHER;
            Jdbi jdbi = Jdbi.create(pool);
            Flyway versions = tables.placeholders(
                            Map.of("workstation", desk.workstation().replace("'", "''")))
                    .load();
            new TableVersions(versions, jdbi, program).bringUpToDate(wanted);
            boolean mayChange = !shared || mayChange(jdbi);
            if (mayChange) {
                jdbi.useHandle(h -> h.execute(
                        "DELETE FROM written WHERE id < (SELECT coalesce(max(id), 0) FROM written) - " + LINES));
            }
            return new Database(
                    pool,
                    new Access(jdbi, pool.getHikariPoolMXBean()::softEvictConnections, program, shared),
                    shared,
                    mayChange,
                    program,
                    line);
        } catch (RuntimeException e) {
            pool.close();
            throw e;
        }
    }

    /// Nobody changes anything on a server that only follows another one.
    private static boolean mayChange(Jdbi jdbi) {
        return jdbi.withHandle(
                h -> h.createQuery("SELECT has_table_privilege('written', 'INSERT') AND NOT pg_is_in_recovery()")
                        .mapTo(Boolean.class)
                        .one());
    }

    /// Hears of what other programs write, until it is closed.
    Overheard overhear(Overheard.Listener listener) {
        return Overheard.begin(line, program, listener);
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
