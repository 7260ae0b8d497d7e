package docksort.run;

import static org.assertj.core.api.Assertions.assertThat;

import docksort.Footage;
import docksort.FrameNumbers;
import docksort.WithMedia;
import docksort.engine.Cancellation;
import docksort.engine.FrameSamples;
import docksort.engine.FrameSamples.Row;
import docksort.engine.Inspection;
import docksort.engine.Inspector;
import docksort.engine.MediaEngine;
import docksort.engine.ProcessControl;
import docksort.media.ClipSource;
import docksort.media.FrameRate;
import docksort.media.Frames;
import docksort.media.Raster;
import docksort.media.Rational;
import docksort.media.VideoFacts;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.LongStream;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/// Frames with their numbers painted into them, reached by the packets that they are said to be in.
@WithMedia
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class PacketPlacesTest {
    private static final int FRAMES = 60;

    @TempDir
    static Path folder = Path.of("");

    private final MediaEngine engine = MediaEngine.locate();

    @AfterAll
    void close() {
        engine.close();
    }

    /// The engine, and a line in a file for each of its processes.
    private MediaEngine noted(Path notes) throws Exception {
        Path noting = Files.createDirectories(folder.resolve("noting"));
        Path ffmpeg = engine.ffmpegProgram().toAbsolutePath();
        for (String program : List.of("ffmpeg", "ffprobe")) {
            Path script = noting.resolve(program);
            Files.writeString(
                    script,
                    "#!/bin/sh\necho \"$@\" >> '" + notes + "'\nLD_LIBRARY_PATH=\"$(dirname '" + ffmpeg + "')\" exec '"
                            + ffmpeg.resolveSibling(program) + "' \"$@\"\n");
            assertThat(script.toFile().setExecutable(true)).isTrue();
        }
        return MediaEngine.inFolder(noting);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "two.mov | 25 | libx264 -g 12 -bf 2",
                "one.mp4 | 30000/1001 | libx264 -g 15 -bf 1",
                "none.mov | 25 | libx264 -g 12 -bf 0",
                "many.mp4 | 50 | libx264 -g 20 -bf 8 -x264-params b-pyramid=normal:open-gop=1:scenecut=0",
                "quick.mov | 100 | libx264 -g 25 -bf 3",
                "slow.mov | 10 | libx264 -g 12 -bf 2",
                "film.mkv | 24000/1001 | libx264 -g 12 -bf 2",
                "open.mov | 25 | libx265 -x265-params log-level=none:keyint=12:open-gop=1",
                "closed.mp4 | 24 | libx265 -x265-params log-level=none:keyint=12:open-gop=0:bframes=4",
                "broadcast.mov | 25 | mpeg2video -g 12 -bf 2",
                "broadcast.mxf | 25 | mpeg2video -g 12 -bf 2",
                "intra.mxf | 25 | prores_ks",
                "open.mkv | 25 | libx265 -x265-params log-level=none:keyint=12:open-gop=1",
                "web.webm | 25 | libvpx-vp9 -g 12 -cpu-used 8",
                "intra.mov | 25 | libx264 -g 1",
                "intra.mkv | 30000/1001 | mjpeg",
            })
    void theFramesOfARowAreInItsPackets(String name, String rate, String encoder) throws Exception {
        var encoding = new ArrayList<String>(
                List.of("-vf", FrameNumbers.painted(), "-preset", "veryfast", "-pix_fmt", "yuv420p", "-c:v"));
        encoding.addAll(List.of(encoder.split(" ")));
        Path file = new Footage(engine)
                .clip(folder.resolve(name), "320x180", rate, FRAMES, encoding.toArray(String[]::new));
        var original = new ClipSource.SingleFile(file);
        VideoFacts picture = ((Inspection.Known)
                        new Inspector(engine).inspect(original, FrameRate.FPS_25, new Cancellation()))
                .facts()
                .video()
                .orElseThrow();
        assertThat(picture.frames().reach()).isEqualTo(Frames.Reach.JUMP);
        var packets = new PacketPlaces(picture);
        List<Long> keys =
                packets.keys().stream().filter(key -> key < FRAMES - 2).toList();
        assertThat(keys).hasSizeGreaterThan(1).startsWith(0L);
        List<Row> rows =
                List.of(packets.row(0, 3), packets.row(keys.get(keys.size() / 2), 2), packets.row(keys.getLast(), 2));
        assertThat(rows).allMatch(row -> row.packets() > 0 && row.packets() < 20);

        Path notes = folder.resolve(name + ".notes");
        try (MediaEngine noting = noted(notes)) {
            var found = new FrameSamples(noting)
                    .rows(
                            new FrameSamples.Search(
                                    original, picture.rate(), picture.frames(), false, false, Rational.ZERO),
                            rows,
                            List.of(new FrameSamples.Through(new Raster(320, 180), false, false, true, "")),
                            ProcessControl.of(new Cancellation()))
                    .orElseThrow();
            assertThat(found.getFirst().stream()
                            .map(row -> row.stream().map(FrameNumbers::number).toList()))
                    .containsExactlyElementsOf(rows.stream()
                            .map(row -> LongStream.range(row.first(), row.first() + row.count())
                                    .mapToObj(frame -> (int) frame)
                                    .toList())
                            .toList());
        }
        assertThat(Files.readAllLines(notes)).as("found at once").hasSize(1);
    }
}
