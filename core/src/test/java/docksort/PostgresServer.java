package docksort;

import docksort.catalogue.SharedAddress;
import io.zonky.test.db.postgres.embedded.EmbeddedPostgres;
import java.io.IOException;
import java.io.UncheckedIOException;

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

    /// To change by hand what is in a schema.
    public static String jdbcUrl(SharedAddress address) {
        return "jdbc:postgresql://localhost:" + Started.SERVER.getPort() + "/postgres?user=postgres&currentSchema="
                + address.schema();
    }
}
