package docksort.files;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import docksort.problem.CoreException.StorageFailed;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/// All files or none, also when the program is killed between two of them, and when two exchange their
/// names.
class RenamesTest {
    @TempDir
    Path folder = Path.of("");

    private Path journal = Path.of("");
    private final Map<Path, Path> names = new LinkedHashMap<>();

    @BeforeEach
    void files() throws IOException {
        journal = folder.resolve("journal");
        for (String name : new String[] {"a", "b", "c"}) {
            Files.writeString(file(name), name);
        }
        names.put(file("a"), file("b"));
        names.put(file("b"), file("a"));
        names.put(file("c"), file("d é"));
    }

    private Path file(String name) {
        return folder.resolve(name + ".mov");
    }

    private void areAsTheyWere() throws IOException {
        assertThat(file("a")).hasContent("a");
        assertThat(file("b")).hasContent("b");
        assertThat(file("c")).hasContent("c");
        try (Stream<Path> all = Files.list(folder)) {
            assertThat(all).as("nothing else is left").hasSize(3);
        }
    }

    @Test
    void twoExchangeTheirNames() {
        Renames.carryOut(names, journal).done();
        assertThat(file("a")).hasContent("b");
        assertThat(file("b")).hasContent("a");
        assertThat(file("d é")).hasContent("c");
        assertThat(journal).doesNotExist();
    }

    @Test
    void killedWhileFilesWereSetAsideTheyGetTheirNamesBack() throws IOException {
        Renames killed = Renames.begin(names, journal);
        killed.setAside();
        assertThat(file("a")).doesNotExist();
        assertThat(Renames.unfinished(journal).orElseThrow().takeBack()).isEmpty();
        areAsTheyWere();
    }

    @Test
    void killedAfterTheLastOneBeforeAnybodyKnewTheyGetTheirNamesBack() throws IOException {
        Renames.carryOut(names, journal); // and nobody kept the names
        assertThat(Renames.unfinished(journal).orElseThrow().takeBack()).isEmpty();
        areAsTheyWere();
    }

    @Test
    void aNameThatIsTakenMeanwhileTakesEverythingBack() throws IOException {
        Renames renames = Renames.begin(names, journal);
        renames.setAside();
        Files.writeString(file("d é"), "somebody else's");
        assertThatThrownBy(renames::place).isInstanceOf(StorageFailed.class).hasMessageContaining("names they had");
        assertThat(file("d é")).hasContent("somebody else's");
        Files.delete(file("d é"));
        areAsTheyWere();
    }

    /// A project comes from somebody else, with a journal that would move what lies elsewhere.
    @ParameterizedTest
    @CsvSource({
        "a.mov, ../a.mov, a.mov",
        "a.mov, .renaming-1, b.mov",
        "../outside.mov, .renaming-U, outside.mov",
        "a.mov, .renaming-U, ../outside.mov"
    })
    void aJournalOfAnotherFormMovesNothing(String from, String aside, String to) throws IOException {
        String token = "0f0f0f0f-0000-4000-8000-000000000000";
        String line = Stream.of(from, aside.replace("U", token), to)
                .map(name -> folder.toUri() + name)
                .collect(Collectors.joining("\t"));
        Path inTheWay = Files.writeString(folder.resolveSibling("outside.mov"), "x");
        Files.writeString(journal, "aside\n" + line + "\n");
        assertThat(Renames.unfinished(journal)).isEmpty();
        Files.delete(journal);
        assertThat(inTheWay).hasContent("x");
        Files.delete(inTheWay);
        areAsTheyWere();
    }

    @Test
    void aCellThatASpreadsheetWouldComputeIsText() {
        assertThat(Cells.harmless("=1+1", "+A1", "-B2", "@SUM", "A001", "", -3L, "a=b"))
                .containsExactly("'=1+1", "'+A1", "'-B2", "'@SUM", "A001", "", -3L, "a=b");
    }
}
