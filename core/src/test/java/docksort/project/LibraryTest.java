package docksort.project;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import docksort.WithMedia;
import docksort.engine.MediaEngine;
import docksort.files.Documents;
import docksort.media.ByteSize;
import docksort.media.FrameRate;
import docksort.media.Raster;
import docksort.problem.CoreException.InputRefused;
import docksort.sort.Recipe;
import docksort.sort.SortBook;
import docksort.stock.Limits;
import docksort.stock.ServingOrder;
import docksort.strain.ShootingMode;
import docksort.strain.ShootingMode.Shape;
import docksort.strain.TimelineFormat;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.InstantSource;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/// What a person keeps beside all projects, and projects that begin with it or like another one.
@WithMedia
class LibraryTest {
    private static final Limits TWO_WEEKS = new Limits(Optional.of(Duration.ofDays(14)), Optional.of(new ByteSize(9)));

    @TempDir
    Path folder = Path.of("");

    private final MediaEngine engine = MediaEngine.locate();
    private Project first;

    @BeforeEach
    void setUp() {
        first = Project.open(folder.resolve("first"), engine, InstantSource.system());
        Recipe own = Recipe.LIGHT_PRORES_HALF.renamed("mine", "Mine");
        first.book().change(new SortBook(List.of(own), List.of(), true), "one recipe, no rules");
        first.clearing().limit(TWO_WEEKS);
        first.settings().setServingOrder(ServingOrder.FULL_FIRST);
        first.settings().serveLightUpTo(540);
        first.settings().deliver(new Raster(3840, 2160));
        first.settings()
                .setTimelineFormat(new TimelineFormat(
                        new Raster(3840, 2160),
                        FrameRate.parse("24000/1001"),
                        TimelineFormat.HD_25.pixelAspect(),
                        "bt2020",
                        48_000));
    }

    @AfterEach
    void close() {
        first.close();
        engine.close();
    }

    private Library library() {
        return new Library(folder.resolve("config/library.json"));
    }

    private Project begin(Template template) {
        return Project.begin(folder.resolve("second"), engine, InstantSource.system(), template);
    }

    @Test
    void aProjectBeginsLikeAnotherWhichStaysAsItIs() throws Exception {
        first.close();
        byte[] before = Files.readAllBytes(folder.resolve("first/catalogue.db"));
        try (Project second = begin(Template.like(folder.resolve("first")))) {
            assertThat(second.book().now().recipes()).extracting(Recipe::name).contains("Mine");
            assertThat(second.book().now().rules()).isEmpty();
            assertThat(second.clearing().limits()).isEqualTo(TWO_WEEKS);
            assertThat(second.settings().servingOrder()).isEqualTo(ServingOrder.FULL_FIRST.withLightLines(540));
            assertThat(second.settings().delivery()).contains(new Raster(3840, 2160));
            assertThat(second.settings().timelineFormat().rate()).isEqualTo(FrameRate.parse("24000/1001"));
            assertThat(second.settings().name()).as("its name is its own").isEqualTo("second");
            assertThat(second.activity(1).getFirst().what()).isEqualTo("Began like first");
            assertThat(second.whatUndoTakesBack()).isEmpty();
        }
        assertThat(Arrays.equals(Files.readAllBytes(folder.resolve("first/catalogue.db")), before))
                .as("the template, byte for byte")
                .isTrue();
        assertThatThrownBy(() -> Template.like(folder.resolve("nothing")))
                .isInstanceOf(InputRefused.class)
                .hasMessageContaining("it holds no project");
        Files.writeString(Files.createDirectories(folder.resolve("odd")).resolve("catalogue.db"), "no catalogue");
        assertThatThrownBy(() -> Template.like(folder.resolve("odd"))).hasMessageContaining("cannot be read");
    }

    @Test
    void theLibraryGivesRecipesRulesAndLimitsToNewProjectsOnly() {
        Library library = library();
        assertThat(library.read()).isEqualTo(Library.Contents.EMPTY);
        var mode = new ShootingMode(
                "camera B",
                Optional.of(Shape.of(new Raster(6144, 3240), FrameRate.parse("24000/1001"), 12)),
                700,
                Optional.of(12));
        library.keep(new Library.Contents(Optional.empty(), Limits.NONE, List.of(mode)));
        library.keep(first.template());
        assertThat(library.read().modes()).containsExactly(mode);
        try (Project second = begin(Template.of(library))) {
            assertThat(second.book().now().recipes()).extracting(Recipe::name).contains("Mine");
            assertThat(second.clearing().limits()).isEqualTo(TWO_WEEKS);
            assertThat(second.settings().timelineFormat())
                    .as("a template's alone")
                    .isEqualTo(TimelineFormat.HD_25);
            second.clearing().limit(Limits.NONE);
        }
        try (Project second = begin(Template.of(library))) {
            assertThat(second.clearing().limits()).as("it is no new one").isEqualTo(Limits.NONE);
        }
        library.forgetBeginning();
        assertThat(library.read()).isEqualTo(new Library.Contents(Optional.empty(), Limits.NONE, List.of(mode)));
        assertThat(Template.of(library)).isEqualTo(Template.NONE);
    }

    /// With `'` in the place of quotes.
    @ParameterizedTest
    @ValueSource(
            strings = {
                "no JSON",
                "{}",
                "[1]",
                "{'format': 'dock-sort library', 'version': 2}",
                "{'format': 'dock-sort library', 'version': 1, 'recipesAndRules': {'format': 'other'}}",
                "{'format': 'dock-sort library', 'version': 1, 'cameraModes': [{'raster': 'big', 'rate': '25'}]}",
                "{'format': 'dock-sort library', 'version': 1, 'cameraModes': [{'raster': '1920x1080', 'rate': '25'}]}",
            })
    void aDamagedLibraryIsSaidAndStopsNothing(String quoted) {
        String text = quoted.replace('\'', '"');
        Library library = library();
        Documents.ensureFolder(folder.resolve("config"));
        Documents.replace(library.file(), text.getBytes(StandardCharsets.UTF_8));
        assertThatThrownBy(library::read).isInstanceOf(InputRefused.class).hasMessageContaining("library.json");
        try (Project second = begin(Template.of(library))) {
            assertThat(second.book().now()).isEqualTo(SortBook.BUILT_IN);
            assertThat(second.activity(1).getFirst().what()).startsWith("Began without the library: ");
        }
        assertThat(library.file()).hasContent(text);
        assertThatThrownBy(() -> library.keep(first.template())).isInstanceOf(InputRefused.class);
        assertThat(library.file()).as("nothing of it is lost").hasContent(text);
    }
}
