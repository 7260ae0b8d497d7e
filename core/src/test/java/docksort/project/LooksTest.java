package docksort.project;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import docksort.Footage;
import docksort.WithMedia;
import docksort.arrival.ScanListener;
import docksort.catalogue.CopyState;
import docksort.catalogue.WorkingCopy;
import docksort.dispatch.ConformedEvent;
import docksort.dispatch.DepartureCheck;
import docksort.dispatch.DepartureCheck.Purpose;
import docksort.engine.Cancellation;
import docksort.engine.Inspection;
import docksort.engine.Inspector;
import docksort.engine.KeptFiles;
import docksort.engine.MediaEngine;
import docksort.media.BurnIn;
import docksort.media.BurnIns;
import docksort.media.ClipFacts;
import docksort.media.ClipSource;
import docksort.media.ColourDecision;
import docksort.media.ColourDecision.Channels;
import docksort.media.FrameRate;
import docksort.media.KeptFile;
import docksort.media.KeptImage;
import docksort.media.Look;
import docksort.media.Raster;
import docksort.media.SoundForm;
import docksort.media.Watermark;
import docksort.media.Wrapper;
import docksort.problem.CoreException.InputRefused;
import docksort.run.CopyTags;
import docksort.sort.CopyKind;
import docksort.sort.Encoding;
import docksort.sort.Placing;
import docksort.sort.PlannedCopy;
import docksort.sort.Recipe;
import docksort.sort.Scaling;
import docksort.sort.SortBook;
import docksort.stock.ServingOrder;
import docksort.timeline.TimelineDocument;
import java.awt.Color;
import java.awt.Graphics2D;
import java.awt.image.BufferedImage;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.InstantSource;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import javax.imageio.ImageIO;
import org.bytedeco.javacpp.Loader;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/// Looks from a file on a disk to the copies that have them baked in.
@WithMedia
class LooksTest {
    @TempDir
    Path folder = Path.of("");

    private final MediaEngine engine = MediaEngine.locate();

    @AfterEach
    void close() {
        engine.close();
    }

    private Project open(String name) {
        return Project.open(folder.resolve(name), engine, InstantSource.system());
    }

    /// All the darker; of values that no other test has.
    private Path cube(String name, double level) throws IOException {
        var text = new StringBuilder("TITLE \"dark\"\nLUT_3D_SIZE 2\n");
        for (int i = 0; i < 8; i++) {
            text.append(String.format(
                    Locale.ROOT, "%f %f %f%n", level * (i % 2), level * (i / 2 % 2), level * (i / 4.0 >= 1 ? 1 : 0)));
        }
        return Files.writeString(folder.resolve(name), text);
    }

    private static Recipe recipe(String id, Encoding encoding, Wrapper wrapper, Look look) {
        return new Recipe(
                id,
                id,
                CopyKind.LIGHT,
                encoding,
                wrapper,
                new Scaling.PerSide(2),
                true,
                false,
                Optional.empty(),
                false,
                look,
                SoundForm.KEPT,
                BurnIns.NONE,
                "{clip}_{recipe}",
                Placing.ONE_FOLDER,
                false);
    }

    private static Look table(KeptFile table) {
        return new Look(false, Optional.empty(), Optional.of(table));
    }

    @Test
    void aTableIsOneByItsContentAndStaysWhileARecipeUsesIt() throws IOException {
        Path file = cube("Night optics.cube", 0.5);
        try (Project project = open("project")) {
            KeptFile added = project.looks().add(file);
            assertThat(project.looks().add(Files.copy(file, folder.resolve("again.cube"))))
                    .isEqualTo(added);
            assertThat(project.looks().all()).containsExactly(added);
            assertThatThrownBy(() -> project.looks().add(Files.writeString(folder.resolve("no.cube"), "LUT_3D_SIZE 2")))
                    .isInstanceOf(InputRefused.class);
            project.book()
                    .change(
                            SortBook.BUILT_IN.with(recipe("dark", Encoding.PRORES_PROXY, Wrapper.MOV, table(added))),
                            "test");
            assertThatThrownBy(() -> project.looks().remove(KeptFile.Kind.TABLE, added))
                    .hasMessageContaining("used by: dark");
            project.book().change(SortBook.BUILT_IN, "test");
            project.looks().remove(KeptFile.Kind.TABLE, added);
            assertThat(project.looks().all()).isEmpty();
        }
    }

    /// A red square, clear around it.
    private Path image(String name, int alpha) throws IOException {
        var square = new BufferedImage(80, 40, BufferedImage.TYPE_INT_ARGB);
        Graphics2D pen = square.createGraphics();
        pen.setColor(new Color(255, 0, 0, alpha));
        pen.fillRect(20, 0, 40, 40);
        pen.dispose();
        Path file = folder.resolve(name);
        ImageIO.write(square, "png", file.toFile());
        return file;
    }

    private static Recipe marked(KeptImage image, int high) {
        var mark = new Watermark(image, BurnIn.At.BOTTOM_RIGHT, high, /* seen= */ 100);
        return recipe("marked", Encoding.PRORES_LT, Wrapper.MOV, Look.NONE)
                .drawing(new BurnIns(List.of(), Optional.empty(), Optional.of(mark)));
    }

    /// Of a copy of 320x180 the image takes 72x36 before the margins of 8 and 6, and its square the middle half.
    @Test
    void anImageIsKeptByItsContentLaidOverCopiesAndGoesWithItsRecipe() throws Exception {
        new Footage(engine)
                .clip(
                        Files.createDirectories(folder.resolve("card")).resolve("A001.mov"),
                        "640x360",
                        "25",
                        40,
                        "-c:v",
                        "libx264");
        Path out = Files.createDirectories(folder.resolve("passed on")).resolve("recipes.json");
        KeptImage added;
        try (Project project = open("project")) {
            Path file = image("Night optics.png", 250);
            added = project.looks().addImage(file);
            assertThat(added.size()).isEqualTo(new Raster(80, 40));
            assertThat(project.looks().addImage(Files.copy(file, folder.resolve("again.png"))))
                    .isEqualTo(added);
            assertThat(project.looks().images()).containsExactly(added);
            assertThat(project.looks().all()).isEmpty();
            byte[] cut = Arrays.copyOf(Files.readAllBytes(file), 60);
            assertThatThrownBy(() -> project.looks().addImage(Files.write(folder.resolve("cut.png"), cut)))
                    .isInstanceOf(InputRefused.class)
                    .hasMessageContaining("cannot be laid over pictures");
            Recipe recipe = marked(added, 20);
            project.book().change(new SortBook(List.of(recipe), List.of(), false), "test");
            assertThatThrownBy(() -> project.looks().remove(KeptFile.Kind.IMAGE, added.file()))
                    .hasMessageContaining("used by: marked");
            project.book().writeOut(out);
            project.arrivals().add(folder.resolve("card"), ScanListener.none(), new Cancellation());
            project.plans().choose(project.clips(), Optional.of(List.of(recipe)));
            project.queue().enqueue(project.plans().loadSheet());
            try (var run = project.runs().start(1, () -> {}).orElseThrow()) {
                assertThat(run.run().awaitEnd(Duration.ofMinutes(2))).isTrue();
            }
            WorkingCopy copy = project.stocktaking().lines().getFirst().copies().getFirst();
            assertThat(copy.state()).as(copy.note()).isEqualTo(CopyState.READY);
            Path picture = folder.resolve("marked.png");
            engine.run(List.of("-i", "file:" + copy.file(), "-frames:v", "1", "file:" + picture));
            BufferedImage shown = ImageIO.read(picture.toFile());
            for (int[] place : new int[][] {{262, 142}, {290, 170}}) {
                Color colour = new Color(shown.getRGB(place[0], place[1]));
                assertThat(colour.getRed()).as("red").isGreaterThan(220);
                assertThat(colour.getGreen() + colour.getBlue())
                        .as("green and blue")
                        .isLessThan(60);
            }
            project.book().change(new SortBook(List.of(marked(added, 100)), List.of(), false), "larger");
            project.plans().choose(project.clips(), Optional.of(List.of(marked(added, 100))));
            assertThat(project.plans().loadSheet().copies())
                    .extracting(PlannedCopy::resolution)
                    .anySatisfy(resolution ->
                            assertThat(resolution.toString()).contains("less than a tenth of the picture"));
        }
        assertThat(out.resolveSibling("Night optics.png")).isRegularFile();
        try (Project other = open("other")) {
            other.book().takeIn(out, false, SortBook.Same.BESIDE);
            assertThat(other.looks().images()).containsExactly(added);
        }
        try (Project like = Project.begin(
                folder.resolve("like"), engine, InstantSource.system(), Template.like(folder.resolve("project")))) {
            assertThat(like.looks().images()).containsExactly(added);
        }
    }

    /// Two tables are called the same, and a file of a person's lies there under that name, too.
    @Test
    void whatIsWrittenBesideRecipesReplacesNothing() throws IOException {
        Path here = Files.createDirectories(folder.resolve("here"));
        Path elsewhere = Files.createDirectories(folder.resolve("elsewhere"));
        Path own = Files.writeString(here.resolve("dark.cube"), "a person's own");
        KeptFile one;
        KeptFile two;
        try (Project project = open("one")) {
            one = project.looks().add(cube("dark.cube", 0.53));
            two = project.looks().add(cube("elsewhere/dark.cube", 0.54));
            project.book()
                    .change(
                            SortBook.BUILT_IN
                                    .with(recipe("one", Encoding.PRORES_PROXY, Wrapper.MOV, table(one)))
                                    .with(recipe("two", Encoding.PRORES_PROXY, Wrapper.MOV, table(two))),
                            "test");
            project.book().writeOut(here.resolve("recipes.json"));
            project.book().writeOut(here.resolve("recipes.json"));
            project.book().writeOut(elsewhere.resolve("recipes.json"));
        }
        assertThat(own).hasContent("a person's own");
        assertThat(here).isDirectoryContaining("glob:**dark-" + one.digest().substring(0, 32) + ".cube");
        assertThat(here.toFile().list()).hasSize(4);
        for (Path place : List.of(here, elsewhere)) {
            for (KeptFile kept : List.of(one, two)) {
                // What this machine has of it is gone: it has to come from beside the file.
                Files.deleteIfExists(
                        Loader.getCacheDir().toPath().resolve("dock-sort-look-" + kept.digest() + ".cube"));
            }
            try (Project other = open("from " + place.getFileName())) {
                other.book().takeIn(place.resolve("recipes.json"), false, SortBook.Same.BESIDE);
                assertThat(other.looks().all()).containsExactlyInAnyOrder(one, two);
            }
        }
    }

    /// Recipes go to another project with their tables: in a file with those beside it, by a template, and not
    /// without.
    @Test
    void recipesBringTheirTables() throws IOException {
        Path out = Files.createDirectories(folder.resolve("passed on")).resolve("recipes.json");
        KeptFile added;
        try (Project project = open("one")) {
            added = project.looks().add(cube("passed.cube", 0.61));
            project.book()
                    .change(
                            SortBook.BUILT_IN.with(recipe("dark", Encoding.PRORES_PROXY, Wrapper.MOV, table(added))),
                            "test");
            project.book().writeOut(out);
        }
        assertThat(out.resolveSibling("passed.cube")).isRegularFile();
        try (Project other = open("two")) {
            other.book().takeIn(out, false, SortBook.Same.BESIDE);
            assertThat(other.looks().all()).containsExactly(added);
        }
        try (Project like = Project.begin(
                folder.resolve("three"), engine, InstantSource.system(), Template.like(folder.resolve("two")))) {
            assertThat(like.looks().all()).containsExactly(added);
        }
        // Another table lies there under the name.
        Files.writeString(out, Files.readString(out).replace(added.digest(), "ab".repeat(32)));
        try (Project fresh = open("four")) {
            assertThatThrownBy(() -> fresh.book().takeIn(out, false, SortBook.Same.BESIDE))
                    .isInstanceOf(InputRefused.class)
                    .hasMessageContaining("passed.cube is not here");
            assertThat(fresh.book().now()).isEqualTo(SortBook.BUILT_IN);
        }
    }

    /// On the copy it may not leave for finishing; on the original it may, and is told that the look stays behind.
    @Test
    void aDepartureTellsWhatIsBakedIn() throws Exception {
        Path original = Files.createDirectories(folder.resolve("card")).resolve("A001.mov");
        new Footage(engine).clip(original, "192x108", "25", 10, "-c:v", "mjpeg");
        try (Project project = open("project")) {
            Look dark = table(project.looks().add(cube("night.cube", 0.6)));
            Recipe recipe = recipe("dark", Encoding.PRORES_PROXY, Wrapper.MOV, dark);
            project.book().change(new SortBook(List.of(recipe), List.of(), false), "test");
            project.arrivals().add(folder.resolve("card"), ScanListener.none(), new Cancellation());
            project.plans().choose(project.clips(), Optional.of(List.of(recipe)));
            project.queue().enqueue(project.plans().loadSheet());
            try (var run = project.runs().start(1, () -> {}).orElseThrow()) {
                assertThat(run.run().awaitEnd(Duration.ofMinutes(2))).isTrue();
            }
            project.settings().deliver(project.settings().timelineFormat().raster());
            TimelineDocument cut = project.timelines()
                    .open(Files.writeString(folder.resolve("cut.otio"), """
                        {"OTIO_SCHEMA": "Timeline.1", "name": "cut", "tracks": {"OTIO_SCHEMA": "Stack.1", "children": [
                          {"OTIO_SCHEMA": "Track.1", "kind": "Video", "name": "V1", "children": [
                            {"OTIO_SCHEMA": "Clip.1", "name": "A001", "media_reference":
                              {"OTIO_SCHEMA": "ExternalReference.1", "target_url": "%s"}}]}]}}
                        """.formatted(original.toUri())));
            assertThat(found(project, cut, ServingOrder.LIGHT_FIRST))
                    .filteredOn(DepartureCheck.Finding::blocks)
                    .extracting(DepartureCheck.Finding::words)
                    .anyMatch(words -> words.equals("it leads to its light copy, which has a look baked in"));
            assertThat(filesWithLook(project, cut)).isEqualTo(1);
            assertThat(found(project, cut, ServingOrder.ORIGINALS))
                    .noneMatch(DepartureCheck.Finding::blocks)
                    .extracting(DepartureCheck.Finding::words)
                    .anyMatch(words -> words.contains("by dark has a look baked in, which its original has not"));
            assertThat(filesWithLook(project, cut)).isZero();
        }
    }

    private static long filesWithLook(Project project, TimelineDocument cut) {
        return ConformedEvent.filesWithLook(project.timelines()
                .conform(cut, project.stocktaking().lines())
                .with(cut)
                .events());
    }

    private static List<DepartureCheck.Finding> found(Project project, TimelineDocument cut, ServingOrder order) {
        project.serving()
                .switchTo(project.timelines().conform(cut, project.stocktaking().lines()), order);
        return project.departures()
                .check(
                        project.timelines().conform(cut, project.stocktaking().lines()),
                        Purpose.FINISHING,
                        false,
                        (_, _) -> {},
                        () -> false)
                .findings();
    }

    private ClipFacts facts(Path file) throws InterruptedException {
        return ((Inspection.Known) new Inspector(engine)
                        .inspect(new ClipSource.SingleFile(file), FrameRate.FPS_25, new Cancellation()))
                .facts();
    }

    /// Through the whole run with all checks, of codecs of each family, of luma and colour of eight and ten
    /// bits, of red, green and blue, with transparency, full range and fields; and each copy says what was done
    /// to it.
    @Test
    void copiesAreMadeWithTheLookAndSaySo() throws Exception {
        Path clips = Files.createDirectories(folder.resolve("card/CLIPS"));
        var footage = new Footage(engine);
        footage.clip(clips.resolve("A.mov"), "640x360", "25", 20, "-c:v", "libx264", "-pix_fmt", "yuv420p");
        footage.clip(clips.resolve("B.mov"), "640x360", "25", 20, "-c:v", "prores_ks", "-pix_fmt", "yuv422p10le");
        footage.clip(clips.resolve("C.mov"), "640x360", "25", 20, "-c:v", "qtrle", "-pix_fmt", "argb");
        footage.clip(clips.resolve("D.mov"), "640x360", "25", 20, "-c:v", "mjpeg", "-pix_fmt", "yuvj422p");
        footage.clip(
                clips.resolve("E.mov"),
                "720x576",
                "25",
                20,
                "-vf",
                "setfield=tff",
                "-c:v",
                "prores_ks",
                "-flags",
                "+ildct",
                "-colorspace",
                "smpte170m");
        footage.clip(
                clips.resolve("F.mov"),
                "640x360",
                "25",
                20,
                "-c:v",
                "libx265",
                "-pix_fmt",
                "yuv420p10le",
                "-x265-params",
                "log-level=error:colorprim=bt2020:transfer=smpte2084:colormatrix=bt2020nc");
        try (Project project = open("project")) {
            Look dark = table(project.looks().add(cube("made.cube", 0.7)));
            var values = new ColourDecision(
                    new Channels(0.8, 0.8, 0.8),
                    new Channels(0.1, 0.1, 0.1),
                    new Channels(1, 1, 1),
                    /* saturation= */ 0.5);
            Look both = new Look(false, Optional.of(values), dark.table());
            List<Recipe> recipes = List.of(
                    recipe("prores", Encoding.PRORES_PROXY, Wrapper.MOV, dark),
                    recipe(
                            "values",
                            Encoding.PRORES_4444,
                            Wrapper.MOV,
                            new Look(false, Optional.of(values), Optional.empty())),
                    recipe("vc3", Encoding.VC3_LB, Wrapper.MOV, both),
                    recipe("jpeg", Encoding.MOTION_JPEG, Wrapper.MOV, dark),
                    recipe("h264", Encoding.H264_LONG, Wrapper.MP4, both),
                    recipe("cineform", Encoding.CINEFORM, Wrapper.MOV, both));
            project.book().change(new SortBook(recipes, List.of(), false), "test");
            project.arrivals().add(folder.resolve("card"), ScanListener.none(), new Cancellation());
            for (Recipe recipe : recipes) {
                project.plans().choose(project.clips(), Optional.of(List.of(recipe)));
                project.queue().enqueue(project.plans().loadSheet());
            }
            try (var run = project.runs().start(2, () -> {}).orElseThrow()) {
                assertThat(run.run().awaitEnd(Duration.ofMinutes(3))).isTrue();
            }
            List<WorkingCopy> copies = project.stocktaking().lines().stream()
                    .flatMap(line -> line.copies().stream())
                    .toList();
            assertThat(copies)
                    .hasSizeGreaterThanOrEqualTo(32) // fields have no VC-3, Motion JPEG at this raster
                    .allSatisfy(copy -> assertThat(copy.state())
                            .as("%s: %s", copy.file(), copy.note())
                            .isEqualTo(CopyState.READY))
                    .allMatch(WorkingCopy::bakesLook);
            for (WorkingCopy copy : copies) {
                ClipFacts facts = facts(copy.file());
                assertThat(facts.tags().get(CopyTags.LOOK))
                        .as("%s", copy.file())
                        .contains(copy.recipeId().equals("values") ? "slope 0.8" : "made.cube");
                if (!copy.recipeId().equals("values")
                        && !facts.video().orElseThrow().colour().transfer().isEmpty()) {
                    assertThat(facts.video().orElseThrow().colour().transfer())
                            .as("%s", copy.file())
                            .isEqualTo("bt709");
                }
                assertThat(project.looks().shown(copy)).isPresent();
            }
            assertThat(KeptFiles.content(KeptFile.Kind.TABLE, dark.table().orElseThrow()))
                    .isPresent();
        }
    }
}
