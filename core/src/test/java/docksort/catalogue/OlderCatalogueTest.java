package docksort.catalogue;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.tuple;

import docksort.arrival.Arrival;
import docksort.arrival.ArrivalId;
import docksort.arrival.ClipId;
import docksort.media.Described;
import docksort.problem.CoreException.CatalogueUnavailable;
import java.nio.file.Path;
import java.time.Instant;
import java.time.InstantSource;
import java.util.List;
import java.util.Optional;
import org.flywaydb.core.Flyway;
import org.jdbi.v3.core.Jdbi;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/// Catalogues that another version of the program wrote.
class OlderCatalogueTest {
    @TempDir
    Path folder;

    private String url = "";

    @BeforeEach
    void lay() {
        url = "jdbc:sqlite:" + folder.resolve("catalogue.db");
    }

    private void versions(String newest) {
        Flyway.configure()
                .dataSource(url, "", "")
                .locations("classpath:docksort/catalogue/sqlite")
                .placeholders(java.util.Map.of("workstation", "nobody"))
                .target(newest)
                .load()
                .migrate();
    }

    private Catalogue open() {
        return Catalogue.open(folder.resolve("catalogue.db"), InstantSource.system(), new Desk("desk", "somebody"));
    }

    private void execute(String... statements) {
        Jdbi.create(url).useHandle(h -> List.of(statements).forEach(h::execute));
    }

    /// As one was before catalogues could be shared: moments as text of different lengths, presence for all
    /// workstations alike, and rows of an arrival that was taken out, kept with all their columns.
    @Test
    void whatWasKeptBeforeCataloguesCouldBeSharedIsThere() {
        versions("8");
        execute(
                "INSERT INTO root (id, name, path) VALUES ('copies', 'Copies', '/c'), ('r', 'R', '/r')",
                "INSERT INTO arrival (id, root_id, path, name, added_at, complete) VALUES"
                        + " ('late', 'r', 'L', 'Late', '2026-03-01T02:00:00.5Z', 1),"
                        + " ('early', 'r', 'E', 'Early', '2026-03-01T02:00:00Z', 1)",
                "INSERT INTO clip (id, arrival_id, path, facts, structure, fingerprint, presence, presence_note) VALUES"
                        + " ('a', 'early', 'E/a', '{}', x'00', '4-00000000000000000000000000000000', 'MOVED', 'gone'),"
                        + " ('b', 'late', 'L/b', '{}', x'00', '4-00000000000000000000000000000000', 'ONLINE', '')",
                "INSERT INTO copy (id, clip_id, kind, recipe_id, root_id, path, state, note, source_fingerprint)"
                    + " VALUES ('m', 'a', 'LIGHT', 'x', 'copies', 'm.mov', 'MISSING', 'not there',"
                    + " '4-00000000000000000000000000000000'), ('w', 'a', 'LIGHT', 'y', 'copies', 'w.mov', 'WAITING',"
                    + " '', '4-00000000000000000000000000000000')",
                "INSERT INTO run_line (run, copy_id, line) VALUES"
                        + " ('2026-03-01T03:00:00.000000001Z', 'w', '\"first\"'),"
                        + " ('2026-03-01T03:00:00.000000001Z', 'm', '\"second\"')",
                "INSERT INTO taken_out (change, position, of_table, columns) VALUES ('t', 0, 'arrival',"
                    + " '{\"id\":\"out\",\"root_id\":\"r\",\"path\":\"O\",\"name\":\"Out\",\"added_at\":\"2026-03-01T01:00:00.25Z\",\"complete\":1,\"watched\":0}'),"
                    + " ('t', 1, 'clip', '{\"id\":\"o\",\"arrival_id\":\"out\",\"path\":\"O/o\",\"facts\":\"{}\","
                    + "\"structure\":\"AA==\",\"fingerprint\":\"4-00000000000000000000000000000000\",\"presence\":\"ONLINE\","
                    + "\"presence_note\":\"\",\"put_aside\":0}')",
                "INSERT INTO activity (at, what, undo) VALUES ('2026-03-01T04:00:00.123456789Z', 'taken out',"
                        + " '{\"kind\":\"arrival-taken-out\",\"change\":\"t\"}')");
        try (Catalogue catalogue = open()) {
            assertThat(catalogue.arrivals().all())
                    .extracting(arrival -> arrival.id().value(), Arrival::addedAt)
                    .containsExactly(
                            tuple("early", Instant.parse("2026-03-01T02:00:00Z")),
                            tuple("late", Instant.parse("2026-03-01T02:00:00.5Z")));
            assertThat(catalogue.clips().presence())
                    .containsOnly(java.util.Map.entry(new ClipId("a"), new Presence(Presence.State.MOVED, "gone")));
            assertThat(catalogue.copies().all())
                    .extracting(WorkingCopy::id, WorkingCopy::state, WorkingCopy::note)
                    .containsExactlyInAnyOrder(
                            tuple("m", CopyState.MISSING, "not there"), tuple("w", CopyState.WAITING, ""));
            assertThat(catalogue.runs().runs())
                    .hasSize(1)
                    .allSatisfy(run -> assertThat(catalogue.runs().lines(run, String.class))
                            .containsExactly("first", "second"));
            assertThat(catalogue.activity().latest(1))
                    .extracting(Activity::at)
                    .containsExactly(Instant.parse("2026-03-01T04:00:00.123456Z"));
            assertThat(catalogue.activity().undo(Optional.empty())).contains("taken out");
            assertThat(catalogue.arrivals().all())
                    .filteredOn(arrival -> arrival.id().equals(new ArrivalId("out")))
                    .extracting(Arrival::addedAt)
                    .containsExactly(Instant.parse("2026-03-01T01:00:00.25Z"));
            assertThat(catalogue.clips().described(new ClipId("o"))).isEqualTo(Described.NOTHING);
        }
        try (Catalogue other = Catalogue.open(
                folder.resolve("catalogue.db"), InstantSource.system(), new Desk("another", "somebody"))) {
            assertThat(other.clips().presence()).isEmpty();
            assertThat(other.copies().all())
                    .filteredOn(copy -> copy.id().equals("m"))
                    .extracting(WorkingCopy::state)
                    .containsExactly(CopyState.READY);
        }
    }

    @Test
    void oneOfANewerProgramIsLeftAsItIs() {
        open().close();
        execute(
                "INSERT INTO flyway_schema_history SELECT 99, '99', 'later', type, 'V99__later.sql', 1, installed_by,"
                        + " installed_on, 1, 1 FROM flyway_schema_history LIMIT 1",
                "CREATE TABLE later (what TEXT)");
        assertThatThrownBy(this::open)
                .isInstanceOf(CatalogueUnavailable.class)
                .hasMessageContaining("newer version of the program")
                .hasMessageContaining("version 99");
    }
}
