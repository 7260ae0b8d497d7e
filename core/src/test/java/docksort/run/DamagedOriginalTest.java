package docksort.run;

import static org.assertj.core.api.Assertions.assertThat;

import docksort.Footage;
import docksort.WithMedia;
import docksort.arrival.ScanListener;
import docksort.catalogue.CopyState;
import docksort.catalogue.WorkingCopy;
import docksort.engine.Cancellation;
import docksort.engine.MediaEngine;
import docksort.project.LockedRun;
import docksort.project.Project;
import docksort.sort.Recipe;
import java.io.IOException;
import java.io.RandomAccessFile;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.InstantSource;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/// Originals that are damaged in the middle: what decodes is copied to its place, and what does not is
/// told.
@WithMedia
class DamagedOriginalTest {
    private static final int FRAMES = 100;

    @TempDir
    Path folder = Path.of("");

    private final MediaEngine engine = MediaEngine.locate();

    @AfterEach
    void close() {
        engine.close();
    }

    @ParameterizedTest
    @CsvSource({"mov, 40, 6", "mkv, 40, 6", "mov, 0, 3", "mov, 97, 3"})
    void theRestIsMadeAndTheHoleToldToTheFrame(String ending, int first, int count) throws Exception {
        Path card = Files.createDirectories(folder.resolve("volume/Card"));
        Path clip = new Footage(engine)
                .clipWithSound(
                        card.resolve("D001." + ending), "320x180", "25", FRAMES, "-c:v", "mjpeg", "-c:a", "pcm_s16le");
        wipe(clip, first, count);
        byte[] original = Files.readAllBytes(clip);

        WorkingCopy copy = made(card, Recipe.LIGHT_PRORES_HALF);

        assertThat(copy.state()).as(copy.note()).isEqualTo(CopyState.READY_WITH_HOLES);
        String frames = first + " to " + (first + count - 1);
        assertThat(copy.note())
                .contains("frames " + FRAMES)
                .contains("hole in the original frames " + frames + " are damaged or lean on damaged ones");
        assertThat(Files.readAllBytes(clip)).isEqualTo(original);
    }

    @Test
    void aSoundOriginalIsToldOfNothing() throws Exception {
        Path card = Files.createDirectories(folder.resolve("volume/Card"));
        new Footage(engine).clip(card.resolve("D002.mov"), "320x180", "25", FRAMES, "-c:v", "mjpeg");
        assertThat(made(card, Recipe.LIGHT_PRORES_HALF).note())
                .doesNotContain("hole in the original")
                .doesNotContain("decoder");
    }

    private WorkingCopy made(Path card, Recipe recipe) throws InterruptedException {
        try (Project project = Project.open(folder.resolve("project"), engine, InstantSource.system())) {
            project.arrivals().add(card, ScanListener.none(), new Cancellation());
            project.plans().choose(project.clips(), Optional.of(List.of(recipe)));
            project.queue().enqueue(project.plans().loadSheet());
            try (LockedRun run = project.runs().start(1, () -> {}).orElseThrow()) {
                assertThat(run.run().awaitEnd(Duration.ofMinutes(3))).isTrue();
            }
            return project.stocktaking().lines().getFirst().copies().getFirst();
        }
    }

    /// Writes zeros over the coded frames. Where they lie, the engine's own prober says.
    private void wipe(Path clip, int first, int count) throws IOException, InterruptedException {
        Process prober = new ProcessBuilder(
                        engine.ffprobeProgram().toString(),
                        "-v",
                        "error",
                        "-select_streams",
                        "v:0",
                        "-show_entries",
                        "packet=pos,size",
                        "-of",
                        "csv=p=0",
                        clip.toString())
                .start();
        List<String> packets = new String(prober.getInputStream().readAllBytes(), StandardCharsets.UTF_8)
                .lines()
                .toList();
        assertThat(prober.waitFor()).isZero();
        try (var file = new RandomAccessFile(clip.toFile(), "rw")) {
            for (String packet : packets.subList(first, first + count)) {
                String[] sizeAndPlace = packet.split(",", -1);
                file.seek(Long.parseLong(sizeAndPlace[1]) + (clip.toString().endsWith("mkv") ? 16 : 0));
                file.write(new byte[Integer.parseInt(sizeAndPlace[0]) - 16]);
            }
        }
    }
}
