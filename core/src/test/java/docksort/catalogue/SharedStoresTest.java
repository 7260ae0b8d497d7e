package docksort.catalogue;

import docksort.PostgresServer;
import java.time.Instant;
import java.time.InstantSource;
import java.util.HashSet;
import java.util.Locale;
import java.util.Set;

/// The promises of the stores, kept by a schema of a database server.
class SharedStoresTest extends StoresContract {
    private static final InstantSource CLOCK = InstantSource.fixed(Instant.parse("2026-03-01T02:00:00Z"));

    private final Set<String> begun = new HashSet<>();

    @Override
    Catalogue open(String name, Desk desk) {
        SharedAddress address =
                PostgresServer.address("stores_" + name.toLowerCase(Locale.ROOT).replaceAll("[^a-z0-9]", "_"));
        return begun.add(name) ? Catalogue.begin(address, CLOCK, desk) : Catalogue.open(address, CLOCK, desk);
    }
}
