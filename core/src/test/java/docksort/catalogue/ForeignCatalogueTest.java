package docksort.catalogue;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import docksort.arrival.ArrivalId;
import docksort.problem.CoreException.CatalogueUnavailable;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.time.InstantSource;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/// A catalogue that somebody else has written into.
class ForeignCatalogueTest {
    @TempDir
    Path folder = Path.of("");

    private Catalogue open() {
        return Catalogue.open(folder.resolve("catalogue.db"), InstantSource.system(), new Desk("desk", "somebody"));
    }

    private void written(String... statements) throws SQLException {
        open().close();
        try (Connection database = DriverManager.getConnection("jdbc:sqlite:" + folder.resolve("catalogue.db"))) {
            for (String statement : statements) {
                database.createStatement().execute(statement);
            }
        }
    }

    private static String undo(String json) {
        return "INSERT INTO activity (at_micros, what, undo) VALUES (0, 'made up', '" + json + "')";
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "{\"kind\":\"copies-forgotten\",\"rows\":[{\"id) VALUES (1); DELETE FROM setting; --\":\"x\"}]}",
                "{\"kind\":\"media-found\",\"clips\":{\"c\":{\"path = 1; --\":\"x\"}},\"copies\":{}}",
                "{\"kind\":\"media-found\",\"clips\":{},\"copies\":{\"c\":{\"no_column\":\"x\"}}}",
                "{\"kind\":\"copies-forgotten\",\"rows\":[{}]}"
            })
    void onlyColumnsThatATableHasGetIntoAStatement(String made) throws Exception {
        written("INSERT INTO setting (name, value) VALUES ('serving', 'light')", undo(made));
        try (Catalogue catalogue = open()) {
            assertThatThrownBy(() -> catalogue.activity().undo(Optional.empty()))
                    .isInstanceOf(IllegalStateException.class)
                    .hasMessageContaining("columns that");
            assertThat(catalogue.settings().get("serving")).contains("light");
            assertThat(catalogue.activity().whatUndoTakesBack()).as("undone").contains("made up");
        }
    }

    @Test
    void whatWasTakenOutGoesBackIntoTablesOfTheProjectOnly() throws Exception {
        written(
                "INSERT INTO taken_out VALUES ('x', 0, 'setting', '{\"name\":\"serving\",\"value\":\"full\"}')",
                undo("{\"kind\":\"arrival-taken-out\",\"change\":\"x\"}"));
        try (Catalogue catalogue = open()) {
            assertThatThrownBy(() -> catalogue.activity().undo(Optional.empty()))
                    .isInstanceOf(IllegalStateException.class);
            assertThat(catalogue.settings().get("serving")).isEmpty();
        }
    }

    @ParameterizedTest
    @ValueSource(strings = {"../outside.mov", "/etc/passwd", "a/../../outside.mov"})
    void noPathLeadsOutOfItsRoot(String path) throws Exception {
        written(
                "INSERT INTO root VALUES ('r', 'volume', '" + folder.resolve("volume") + "')",
                "INSERT INTO arrival (id, root_id, path, name, added_micros) VALUES ('a', 'r', 'CARD', 'CARD', 0)",
                "INSERT INTO unreadable (arrival_id, path, problem) VALUES ('a', '" + path + "', '{}')",
                "INSERT INTO seen VALUES ('a', '" + path + "', 1, 1, 1)",
                "INSERT INTO clip (id, arrival_id, path, facts, structure, fingerprint) VALUES ('c', 'a', '" + path
                        + "', '{}', x'00', '1-" + "0".repeat(32) + "')",
                "INSERT INTO copy (id, clip_id, kind, recipe_id, root_id, path, state, source_fingerprint) VALUES"
                        + " ('k', 'c', 'LIGHT', 'x', 'r', '" + path + "', 'READY', '1-" + "0".repeat(32) + "')");
        try (Catalogue catalogue = open()) {
            var arrival = new ArrivalId("a");
            assertThatThrownBy(catalogue.clips()::all).isInstanceOf(CatalogueUnavailable.class);
            assertThatThrownBy(catalogue.copies()::all).isInstanceOf(CatalogueUnavailable.class);
            assertThatThrownBy(() -> catalogue.arrivals().unreadable(false)).isInstanceOf(CatalogueUnavailable.class);
            assertThatThrownBy(() -> catalogue.arrivals().seen(arrival)).isInstanceOf(CatalogueUnavailable.class);
        }
    }
}
