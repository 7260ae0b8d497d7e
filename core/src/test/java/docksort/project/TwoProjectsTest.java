package docksort.project;

import static org.assertj.core.api.Assertions.assertThat;

import docksort.Footage;
import docksort.WithMedia;
import docksort.arrival.ScanListener;
import docksort.catalogue.CopyState;
import docksort.catalogue.WorkingCopy;
import docksort.engine.Cancellation;
import docksort.engine.MediaEngine;
import docksort.media.Wrapper;
import docksort.run.Terms;
import docksort.sort.CopyKind;
import docksort.sort.Encoding;
import docksort.sort.Placing;
import docksort.sort.Recipe;
import docksort.sort.Scaling;
import docksort.sort.SortBook;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

@WithMedia
class TwoProjectsTest {
    @TempDir
    Path folder = Path.of("");

    /// Both planned before either made anything, so that both want the same names beside the same
    /// originals.
    @Test
    void copiesBesideTheSameOriginalsDoNotOverwriteEachOther() throws Exception {
        Path card = Files.createDirectories(folder.resolve("volume/card"));
        try (MediaEngine engine = MediaEngine.locate();
                Project one = Project.open(folder.resolve("one"), engine, InstantSource.system());
                Project other = Project.open(folder.resolve("other"), engine, InstantSource.system())) {
            new Footage(engine).clip(card.resolve("A1.mov"), "320x180", "25", 20, "-c:v", "libx264");
            plan(one, card, new Scaling.PerSide(2));
            plan(other, card, new Scaling.PerSide(4));
            Path first = made(one).getFirst();
            byte[] before = Files.readAllBytes(first);
            List<Path> second = made(other);
            assertThat(second)
                    .isNotEmpty()
                    .doesNotContain(first)
                    .allSatisfy(file ->
                            assertThat(file).hasParent(first.getParent()).exists());
            assertThat(Files.readAllBytes(first)).isEqualTo(before);
            assertThat(one.stocktaking().refresh() + other.stocktaking().refresh())
                    .isZero();
        }
    }

    private static void plan(Project project, Path card, Scaling scaling) throws InterruptedException {
        Recipe beside = Recipe.of("beside", "beside", CopyKind.LIGHT, Encoding.PRORES_PROXY, Wrapper.MOV, scaling)
                .placed(Recipe.USUAL_NAMING, Placing.BESIDE);
        project.arrivals().add(card, ScanListener.none(), new Cancellation());
        project.book().change(new SortBook(List.of(beside), List.of(), false), "test");
        project.plans().choose(project.clips(), Optional.of(List.of(beside)));
        project.queue().enqueue(project.plans().loadSheet());
    }

    private static List<Path> made(Project project) throws InterruptedException {
        try (var run = project.runs().start(Terms.fixed(1), () -> {}).orElseThrow()) {
            assertThat(run.run().awaitEnd(Duration.ofMinutes(2))).isTrue();
        }
        var files = new ArrayList<Path>();
        for (WorkingCopy copy : project.stocktaking().lines().stream()
                .flatMap(line -> line.copies().stream())
                .toList()) {
            assertThat(copy.state()).as(copy.note()).isEqualTo(CopyState.READY);
            files.add(copy.file());
        }
        return files;
    }
}
