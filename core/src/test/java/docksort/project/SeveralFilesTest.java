package docksort.project;

import static org.assertj.core.api.Assertions.assertThat;

import docksort.FrameNumbers;
import docksort.OtherEngine;
import docksort.OtherEngine.Seen;
import docksort.Recorder;
import docksort.Strangers;
import docksort.WithMedia;
import docksort.arrival.Clip;
import docksort.arrival.ScanListener;
import docksort.catalogue.CopyState;
import docksort.catalogue.WorkingCopy;
import docksort.engine.Cancellation;
import docksort.engine.MediaEngine;
import docksort.media.FrameRate;
import docksort.run.Terms;
import docksort.sort.Recipe;
import docksort.sort.SortBook;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/// Recordings in several files as strangers bring them, made by another build of the media engine.
@WithMedia
class SeveralFilesTest {
    @TempDir
    Path folder = Path.of("");

    /// @param name of the numbered files, as that build's muxer `image2` writes them
    /// @param first number
    /// @param called what the clip is called
    @ParameterizedTest
    @CsvSource({
        "plain%d.png, 7, 12, 'plain [7-18]', -pix_fmt rgb24",
        "two_%02d.png, 1, 6, 'two [01-06]', -pix_fmt rgb24",
        "shot_%04d_v2.png, 1001, 9, 'shot [1001-1009]_v2', -pix_fmt rgb24",
        "few.%04d.exr, 1, 3, 'few [0001-0003]', -format half -pix_fmt gbrpf32le",
        "scan_%06d.dpx, 86400, 5, 'scan [086400-086404]', -pix_fmt gbrp10be",
        "ENDING_%03d.TIF, 1, 9, 'ENDING [001-009]', -c:v tiff -pix_fmt rgb48le",
        "grows_%03d.jpg, 995, 10, 'grows [995-1004]', -q:v 2 -pix_fmt yuvj444p"
    })
    void numberedStillsAreOneClipHoweverTheyCount(String name, int first, int count, String called, String how)
            throws Exception {
        Path card = Files.createDirectories(folder.resolve("volume/stills"));
        stills(card, name, first, count, how);
        Seen seen = copied(card, called, Recipe.FULL_PRORES, count, false);
        assertThat(seen.numbers()).isEqualTo(IntStream.range(0, count).boxed().toList());
    }

    @Test
    void numbersBelowZeroCountUp() throws Exception {
        Path card = Files.createDirectories(folder.resolve("volume/stills"));
        stills(card, "plate_%04d.png", 1, 7, "-pix_fmt rgb24");
        for (int i = 1; i <= 7; i++) {
            int number = i - 4; // from -3 to 3
            String digits = (number < 0 ? "-" : "") + "%04d".formatted(Math.abs(number));
            Files.move(card.resolve("plate_%04d.png".formatted(i)), card.resolve("moved_" + digits + ".png"));
        }
        Seen seen = copied(card, "moved [-0003-0003]", Recipe.FULL_PRORES, 7, false);
        assertThat(seen.numbers()).containsExactly(0, 1, 2, 3, 4, 5, 6);
    }

    @Test
    void anEmptyFirstStillIsToldAndTheOthersAreAClip() throws Exception {
        Path card = Files.createDirectories(folder.resolve("volume/stills"));
        stills(card, "still_%04d.png", 1, 9, "-pix_fmt rgb24");
        Files.write(card.resolve("still_0001.png"), new byte[0]);
        try (MediaEngine engine = MediaEngine.locate();
                Project project = Project.open(folder.resolve("project"), engine, InstantSource.system())) {
            var result = project.arrivals().add(card, ScanListener.none(), new Cancellation());
            assertThat(result.clips()).extracting(Clip::name).containsExactly("still [0002-0009]");
            assertThat(result.unreadable()).singleElement().satisfies(bad -> {
                assertThat(bad.file()).hasFileName("still_0001.png");
                assertThat(bad.problem().why()).contains("empty");
            });
        }
    }

    /// A recorder that cuts at four gigabytes, with compressed sound, which begins a little early in each
    /// part.
    @Test
    void aSpannedRecordingKeepsItsSoundInPlace() throws Exception {
        Path card = Files.createDirectories(folder.resolve("volume/card"));
        for (int part = 0; part < 3; part++) {
            Path file = card.resolve("C000" + (part + 1) + ".MP4");
            List<String> line = new ArrayList<>(List.of(Strangers.OTHER_ENGINE, "-nostdin", "-v", "error"));
            line.addAll(List.of("-f", "lavfi", "-i", "testsrc2=size=256x144:rate=25," + FrameNumbers.painted()));
            line.addAll(List.of("-f", "lavfi", "-i", Strangers.clicks(2)));
            String taken = "trim=start_frame=" + 50 * part + ":end_frame=" + (50 * part + 50);
            line.addAll(List.of("-vf", taken + ",setpts=PTS-STARTPTS"));
            line.addAll(List.of("-c:v", "libx264", "-pix_fmt", "yuv420p", "-g", "25", "-bf", "2"));
            line.addAll(List.of("-c:a", "aac", "-timecode", "10:00:0" + 2 * part + ":00", "file:" + file));
            Strangers.run(line);
            if (part < 2) {
                Recorder.fillUp(file, (1L << 32) - 20_000_000);
            }
        }
        Seen seen = copied(card, "C0001 (3 parts)", Recipe.LIGHT_PRORES_HALF, 150, true);
        assertThat(seen.numbers()).isEqualTo(IntStream.range(0, 150).boxed().toList());
        List<Double> clicks = seen.clicksFromPicture();
        assertThat(clicks).hasSize(6);
        for (int i = 0; i < 6; i++) {
            assertThat(clicks.get(i)).as("click %d", i).isBetween(i + 0.38, i + 0.42);
        }
    }

    private static void stills(Path card, String name, int first, int count, String how) throws Exception {
        var line = new ArrayList<String>(List.of(Strangers.OTHER_ENGINE, "-nostdin", "-v", "error", "-f", "lavfi"));
        line.addAll(List.of("-i", "testsrc2=size=256x144:rate=25," + FrameNumbers.painted()));
        line.addAll(List.of("-frames:v", Integer.toString(count), "-start_number", Integer.toString(first)));
        line.addAll(List.of(how.split(" ", -1)));
        line.add(card.resolve(name).toString());
        Strangers.run(line);
    }

    private Seen copied(Path card, String called, Recipe recipe, int frames, boolean sounds) throws Exception {
        try (MediaEngine engine = MediaEngine.locate();
                Project project = Project.open(folder.resolve("project"), engine, InstantSource.system())) {
            project.arrivals().add(card, ScanListener.none(), new Cancellation());
            assertThat(project.clips()).extracting(Clip::name).containsExactly(called);
            Clip clip = project.clips().getFirst();
            assertThat(clip.facts().video().orElseThrow().frames().count()).isEqualTo(frames);
            if (clip.facts().isRateOpen()) {
                project.arrivals().readAt(List.of(clip), FrameRate.FPS_25);
            }
            project.book().change(new SortBook(List.of(), List.of(), false), "test");
            project.plans().choose(project.clips(), Optional.of(List.of(recipe)));
            project.queue().enqueue(project.plans().loadSheet());
            try (var run = project.runs().start(Terms.fixed(1), () -> {}).orElseThrow()) {
                assertThat(run.run().awaitEnd(Duration.ofMinutes(3))).isTrue();
            }
            WorkingCopy copy = project.stocktaking().lines().getFirst().copies().getFirst();
            assertThat(copy.state()).as(copy.note()).isEqualTo(CopyState.READY);
            return OtherEngine.see(copy.file(), sounds, folder);
        }
    }
}
