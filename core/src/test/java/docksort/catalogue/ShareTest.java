package docksort.catalogue;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import docksort.PostgresServer;
import docksort.problem.CoreException.CatalogueUnavailable;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.stream.Collectors;
import org.jdbi.v3.core.Jdbi;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/// A catalogue goes from its file into a database and back.
class ShareTest {
    private static final Desk DESK = new Desk("desk", "somebody");
    private static final InstantSource CLOCK = InstantSource.system();

    @TempDir
    Path folder;

    /// What the files say when they are asked by another way: every row of every table but the list of versions.
    private static Map<String, List<String>> rows(Path file) {
        return Jdbi.create("jdbc:sqlite:" + file).withHandle(h -> {
            var all = new TreeMap<String, List<String>>();
            for (String table : h.createQuery(
                            "SELECT name FROM sqlite_master WHERE type = 'table' AND name NOT LIKE 'sqlite%'"
                                    + " AND name NOT LIKE 'flyway%' AND name <> 'written'")
                    .mapTo(String.class)
                    .list()) {
                String columns = h
                        .createQuery("SELECT name FROM pragma_table_info(?) ORDER BY name")
                        .bind(0, table)
                        .mapTo(String.class)
                        .stream()
                        .map(column -> "quote(" + column + ")")
                        .collect(Collectors.joining(" || ',' || "));
                all.put(
                        table,
                        h.createQuery("SELECT " + columns + " AS line FROM " + table + " ORDER BY line")
                                .mapTo(String.class)
                                .list());
            }
            return all;
        });
    }

    @Test
    void everyRowIsTheSameAfterItWentThereAndBack() {
        Path file = folder.resolve("catalogue.db");
        Path archive = folder.resolve("archive.db");
        SharedAddress address = PostgresServer.address("share_there_and_back");
        try (Catalogue alone = Catalogue.open(file, CLOCK, DESK)) {
            StoresContract.fillAll(alone);
            // Numbers of both widths in one column, and something behind nothing.
            Jdbi.create("jdbc:sqlite:" + file).useHandle(h -> {
                h.execute("UPDATE copy SET bytes = 5000000000, modified_millis = 7 WHERE id = (SELECT max(id) FROM"
                        + " copy)");
                h.execute("UPDATE activity SET undo = NULL WHERE id = (SELECT min(id) FROM activity)");
                h.execute("UPDATE clip SET stills = NULL WHERE id = (SELECT min(id) FROM clip)");
            });
            Map<String, Long> moved = alone.share(address, CLOCK, DESK);
            assertThat(moved.keySet())
                    .containsExactlyInAnyOrderElementsOf(rows(file).keySet());
            assertThat(moved)
                    .allSatisfy((table, count) -> assertThat(count).as(table).isPositive());
            // Who has the file open still writes nothing into it.
            assertThatThrownBy(() -> alone.settings().put("serving", "light"))
                    .isInstanceOf(CatalogueUnavailable.class)
                    .hasMessageContaining("the project was shared in the meantime");
        }
        try (Catalogue shared = Catalogue.open(address, CLOCK, DESK)) {
            shared.archive(archive, CLOCK, DESK);
            assertThat(shared.activity().undo(Optional.empty())).isPresent();
        }
        Map<String, List<String>> before = rows(file);
        Map<String, List<String>> after = rows(archive);
        before.getOrDefault("setting", List.of()).removeIf(line -> line.contains("'shared-at'"));
        // Each root has the path of this workstation now.
        assertThat(after.remove("root_path")).containsAll(before.remove("root_path"));
        assertThat(after).isEqualTo(before);
    }

    @Test
    void aSharedProjectIsNotOpenedAloneAnyMoreNorSharedTwiceIntoOneSchema() {
        Path file = folder.resolve("catalogue.db");
        SharedAddress address = PostgresServer.address("share_twice");
        Catalogue.begin(address, CLOCK, DESK).close(); // somebody began, and nothing came of it
        try (Catalogue alone = Catalogue.open(file, CLOCK, DESK)) {
            alone.share(address, CLOCK, DESK);
        }
        assertThatThrownBy(() -> Catalogue.open(file, CLOCK, DESK))
                .isInstanceOf(CatalogueUnavailable.class)
                .hasMessageContaining("share_twice");
        try (Catalogue other = Catalogue.open(folder.resolve("other.db"), CLOCK, DESK)) {
            assertThatThrownBy(() -> other.share(address, CLOCK, DESK))
                    .isInstanceOf(CatalogueUnavailable.class)
                    .hasMessageContaining("there is something already");
            other.settings().put("serving", "light");
        }
    }

    @Test
    void nothingIsBegunWhereAProjectIsLookedFor() {
        SharedAddress address = PostgresServer.address("share_none");
        for (int i = 0; i < 2; i++) {
            assertThatThrownBy(() -> Catalogue.open(address, CLOCK, DESK))
                    .isInstanceOf(CatalogueUnavailable.class)
                    .hasMessageContaining("no project is in it");
        }
    }

    @Test
    void aWorkstationThatNobodyGaveAPathSeesNothingOfAnother() {
        SharedAddress address = PostgresServer.address("share_paths");
        try (Catalogue alone = Catalogue.open(folder.resolve("catalogue.db"), CLOCK, DESK)) {
            alone.roots().add(new Root("r", "Volume", folder));
            alone.share(address, CLOCK, DESK);
        }
        try (Catalogue here = Catalogue.open(address, CLOCK, DESK);
                Catalogue there = Catalogue.open(address, CLOCK, new Desk("suite", "another"))) {
            assertThat(here.roots().all()).containsExactly(new Root("r", "Volume", folder));
            assertThat(there.roots().all()).singleElement().satisfies(root -> {
                assertThat(root.isPlaced()).isFalse();
                assertThat(root.path()).doesNotExist();
            });
            there.roots().place(Map.of(there.roots().all().getFirst(), folder.resolve("mnt")));
            there.roots().add(new Root("n", "New there", folder.resolve("new")));
            assertThat(there.roots().all()).allMatch(Root::isPlaced);
            assertThat(here.roots().all())
                    .filteredOn(root -> !root.isPlaced())
                    .extracting(Root::id)
                    .containsExactly("n");
        }
    }
}
