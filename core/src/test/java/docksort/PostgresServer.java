package docksort;

import docksort.catalogue.SharedAddress;
import io.zonky.test.db.postgres.embedded.EmbeddedPostgres;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.Map;
import org.flywaydb.core.Flyway;

/// One PostgreSQL server for all tests of a run, from the binaries that the build brings. It ends with the
/// program.
public final class PostgresServer {
    private PostgresServer() {}

    private static final class Started {
        static final EmbeddedPostgres SERVER = start();

        private static EmbeddedPostgres start() {
            try {
                return EmbeddedPostgres.builder()
                        .setServerConfig("fsync", "off")
                        .setServerConfig("full_page_writes", "off")
                        .start();
            } catch (IOException e) {
                throw new UncheckedIOException("the test's PostgreSQL does not start", e);
            }
        }
    }

    public static SharedAddress address(String schema) {
        return SharedAddress.parse("postgresql://postgres@localhost:" + Started.SERVER.getPort() + "/postgres", schema);
    }

    /// With the tables of an older program, of the workstation "desk".
    ///
    /// @param version the last of its catalogue's numbered files
    public static SharedAddress address(String schema, String version) {
        SharedAddress older = address(schema);
        Flyway.configure()
                .dataSource(jdbcUrl(older), "postgres", "")
                .schemas(schema)
                .locations("classpath:docksort/catalogue/postgresql")
                .placeholders(Map.of("workstation", "desk"))
                .target(version)
                .load()
                .migrate();
        return older;
    }

    /// To change by hand what is in a schema.
    public static String jdbcUrl(SharedAddress address) {
        return "jdbc:postgresql://localhost:" + Started.SERVER.getPort() + "/postgres?user=postgres&currentSchema="
                + address.schema();
    }
}
