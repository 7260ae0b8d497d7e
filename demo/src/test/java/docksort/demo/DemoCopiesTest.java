package docksort.demo;

import static org.assertj.core.api.Assertions.assertThat;

import docksort.arrival.Clip;
import docksort.arrival.ScanListener;
import docksort.catalogue.CopyState;
import docksort.catalogue.WorkingCopy;
import docksort.engine.Cancellation;
import docksort.engine.MediaEngine;
import docksort.media.FrameRate;
import docksort.media.VideoFacts;
import docksort.project.Project;
import docksort.run.Terms;
import docksort.sort.Recipe;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.assertj.core.api.SoftAssertions;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/// Every frame of the demo footage carries its number as a strip of fields. Copies of all of it show the
/// numbers of their originals, at both ends and at ten frames between.
@Tag("media")
class DemoCopiesTest {
    private static final Path FOOTAGE = Path.of("target", "demo-footage").toAbsolutePath();

    @TempDir
    Path folder = Path.of("");

    @Test
    void everyCopyOfTheDemoShowsTheFramesOfItsOriginal() throws Exception {
        try (MediaEngine engine = MediaEngine.locate();
                Project project = Project.open(folder.resolve("project"), engine, InstantSource.system())) {
            for (Path arrival : DemoFootage.in(FOOTAGE, engine, _ -> {}).arrivals()) {
                project.arrivals().add(arrival, ScanListener.none(), new Cancellation());
            }
            List<Clip> stills = project.clips().stream()
                    .filter(clip -> clip.facts().isRateOpen())
                    .toList();
            project.arrivals().readAt(stills, FrameRate.FPS_25);
            project.plans().choose(project.clips(), Optional.of(List.of(Recipe.LIGHT_PRORES_HALF, Recipe.FULL_PRORES)));
            project.queue().enqueue(project.plans().loadSheet());
            try (var run = project.runs().start(Terms.fixed(2), () -> {}).orElseThrow()) {
                assertThat(run.run().awaitEnd(Duration.ofMinutes(20))).isTrue();
            }
            Map<?, Clip> clips = project.clips().stream().collect(Collectors.toMap(Clip::id, clip -> clip));
            List<WorkingCopy> copies = project.stocktaking().lines().stream()
                    .flatMap(line -> line.copies().stream())
                    .toList();
            var softly = new SoftAssertions();
            Set<Object> copied = copies.stream().map(WorkingCopy::clip).collect(Collectors.toSet());
            softly.assertThat(copied).as("clips that have copies").isEqualTo(clips.keySet());
            var random = new Random(3);
            for (WorkingCopy copy : copies) {
                softly.assertThat(copy.state())
                        .as("%s: %s", copy.file(), copy.note())
                        .isEqualTo(CopyState.READY);
                if (copy.state() != CopyState.READY) {
                    continue;
                }
                VideoFacts picture = Objects.requireNonNull(clips.get(copy.clip()))
                        .facts()
                        .video()
                        .orElseThrow();
                boolean desk = picture.rateKind() == VideoFacts.RateKind.VARIABLE;
                long last = picture.frames().count() - 1;
                var frames = new TreeSet<>(List.of(0L, last));
                random.longs(10, 0, last).forEach(frames::add);
                softly.assertThat(numbers(engine, copy.file(), frames))
                        .as("%s", copy.file())
                        .isEqualTo(frames.stream()
                                .map(frame -> desk ? shownAtTheDesk(frame) : frame.intValue())
                                .toList());
            }
            softly.assertAll();
        }
    }

    /// The control program leaves frames out where nothing moves, see [Shoot].
    private static int shownAtTheDesk(long frame) {
        long n = frame;
        while (n % 7 == 3 || (n % 45 >= 20 && n % 45 <= 24)) {
            n--;
        }
        return (int) n;
    }

    private List<Integer> numbers(MediaEngine engine, Path copy, Set<Long> frames)
            throws IOException, InterruptedException {
        String wanted = frames.stream().map(frame -> "eq(n\\," + frame + ")").collect(Collectors.joining("+"));
        Path grey = folder.resolve("strips.raw");
        engine.run(List.of(
                "-i",
                "file:" + copy,
                "-vf",
                "select=" + wanted + ",crop=iw*" + DemoFootage.FIELD_WIDTH + "*" + DemoFootage.STRIP_FIELDS + ":ih*"
                        + DemoFootage.FIELD_HEIGHT + ":iw*" + DemoFootage.STRIP_LEFT + ":ih*" + DemoFootage.STRIP_TOP
                        + ",format=yuv444p,extractplanes=y,scale=" + DemoFootage.STRIP_FIELDS + ":1:flags=area",
                "-fps_mode",
                "passthrough",
                "-f",
                "rawvideo",
                "file:" + grey));
        byte[] bytes = Files.readAllBytes(grey);
        Files.delete(grey);
        var found = new ArrayList<Integer>();
        for (int at = 0; at < bytes.length; at += DemoFootage.STRIP_FIELDS) {
            int number = 0;
            for (int bit = 0; bit < DemoFootage.STRIP_FIELDS; bit++) {
                number |= ((bytes[at + bit] & 0xFF) > 127 ? 1 : 0) << bit;
            }
            found.add(number);
        }
        return found;
    }
}
