package docksort.demo;

import static org.assertj.core.api.Assertions.assertThat;

import docksort.arrival.ArrivalId;
import docksort.arrival.ArrivalScan;
import docksort.arrival.Clip;
import docksort.arrival.SameScene;
import docksort.arrival.ScanListener;
import docksort.arrival.ScanResult;
import docksort.engine.Cancellation;
import docksort.engine.Inspector;
import docksort.engine.MediaEngine;
import docksort.media.CodedFrame;
import docksort.media.FrameRate;
import docksort.media.Timecode;
import docksort.media.VideoFacts;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.DynamicTest;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestFactory;
import org.junit.jupiter.api.TestInstance;
import org.mp4parser.IsoFile;
import org.mp4parser.boxes.iso14496.part12.SampleSizeBox;
import org.mp4parser.boxes.iso14496.part12.SyncSampleBox;
import org.mp4parser.boxes.iso14496.part12.TimeToSampleBox;
import org.mp4parser.boxes.iso14496.part12.TrackBox;
import org.mp4parser.boxes.sampleentry.VisualSampleEntry;

/// Holds what inspection says of the demo footage against two readers of another kind:
/// `org.mp4parser:isoparser`, which reads the sample tables of MOV and MP4 files, and a full decode that
/// describes every decoded frame. What is expected of each clip stands in a table here, written from what
/// the shoot was told to be, not from what inspection says.
@Tag("media")
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class IndependentReadingTest {
    private static final Path FOLDER = Path.of("target", "demo-footage").toAbsolutePath();

    private final MediaEngine engine = MediaEngine.locate();
    private final Map<String, Clip> clips = new HashMap<>();
    private final List<ScanResult> scans = new ArrayList<>();

    /// name, codec, width, height, rate, frames (0: variable), timecode, bits, chroma, all-intra
    private static final String TABLE = """
        N01_C003   hevc       3840 2160 50         40 02:10:00:00 10 4:2:0 long
        N01_C004   hevc       3840 2160 50         30 02:14:30:10 10 4:2:0 long
        W210031    h264       1920 1080 25        100 10:02:11:05  8 4:2:0 long
        W210032    h264       1920 1080 25         75 10:04:40:00  8 4:2:0 long
        W210033    h264       1920 1080 25         60 10:09:03:19  8 4:2:0 long
        H100_007   h264       1920 1080 100       100 16:00:00:00  8 4:2:0 long
        H100_008   h264       1920 1080 100        80 16:00:00:00  8 4:2:0 long
        K5_0018    h264       1920 1080 25         75 14:20:00:00 10 4:2:2 intra
        K5_0019    h264       1920 1080 25         50 14:26:12:00 10 4:2:2 intra
        DESK_0412  h264       2560 1440 30          0 none         8 4:2:0 long
        DESK_0413  h264       2560 1440 30          0 none         8 4:2:0 long
        Titles_v3  prores     1920 1080 25         30 00:00:00:00 12 4:4:4 intra
        R2_0007    mpeg2video 1920 1080 25         75 00:59:50:00  8 4:2:2 long
        R2_0011    h264       1440 1080 25         50 03:00:00:00  8 4:2:0 long
        V3_0002    h264       1920 1080 30000/1001 90 00:59:58;00  8 4:2:0 long
        """;

    @BeforeAll
    void inspect() throws IOException, InterruptedException {
        DemoFootage.Made made = DemoFootage.in(FOLDER, engine, _ -> {});
        var scan = new ArrivalScan(new Inspector(engine), SameScene.UNSEEN, 2);
        for (Path arrival : made.arrivals()) {
            ScanResult result = scan.scan(
                    ArrivalId.fresh(),
                    arrival,
                    ArrivalScan.Before.NOTHING,
                    FrameRate.FPS_25,
                    ScanListener.none(),
                    new Cancellation());
            scans.add(result);
            result.clips().forEach(clip -> clips.putIfAbsent(clip.name(), clip));
        }
    }

    @AfterAll
    void close() {
        engine.close();
    }

    private record Expected(
            String name,
            String codec,
            int width,
            int height,
            FrameRate rate,
            long frames,
            String timecode,
            int bits,
            String chroma,
            boolean intra) {
        static Expected of(String line) {
            String[] p = line.strip().split("\\s+", -1);
            return new Expected(
                    p[0],
                    p[1],
                    Integer.parseInt(p[2]),
                    Integer.parseInt(p[3]),
                    FrameRate.parse(p[4]),
                    Long.parseLong(p[5]),
                    p[6],
                    Integer.parseInt(p[7]),
                    p[8],
                    p[9].equals("intra"));
        }
    }

    private static List<Expected> table() {
        return TABLE.lines().map(Expected::of).toList();
    }

    private Clip clip(String name) {
        return Objects.requireNonNull(clips.get(name), name);
    }

    @TestFactory
    List<DynamicTest> inspectionSaysWhatTheShootWas() {
        return table().stream()
                .map(wanted -> DynamicTest.dynamicTest(wanted.name, () -> {
                    Clip clip = clip(wanted.name);
                    VideoFacts video = clip.facts().video().orElseThrow();
                    assertThat(video.codec().name()).isEqualTo(wanted.codec);
                    assertThat(video.raster()).hasToString(wanted.width + "×" + wanted.height);
                    assertThat(video.rate()).isEqualTo(wanted.rate);
                    assertThat(video.rateKind())
                            .isEqualTo(
                                    wanted.frames == 0 ? VideoFacts.RateKind.VARIABLE : VideoFacts.RateKind.CONSTANT);
                    if (wanted.frames > 0) {
                        assertThat(video.frames().count()).isEqualTo(wanted.frames);
                        assertThat(video.frames().isCertain()).isTrue();
                    }
                    assertThat(clip.facts()
                                    .startTimecode()
                                    .map(Timecode::toString)
                                    .orElse("none"))
                            .isEqualTo(wanted.timecode);
                    assertThat(video.pixels().bitDepth()).isEqualTo(wanted.bits);
                    assertThat(video.pixels().chroma().label()).isEqualTo(wanted.chroma);
                    assertThat(video.structure().isAllIntra()).isEqualTo(wanted.intra);
                    assertThat(video.colour().matrix())
                            .as("what the shoot was told to tag")
                            .isEqualTo("bt709");
                }))
                .toList();
    }

    /// A full decode by the engine's `showinfo`, which prints one line for each decoded frame.
    @TestFactory
    List<DynamicTest> aFullDecodeCountsTheSameFramesOfTheSameKind() {
        return table().stream()
                .map(wanted -> DynamicTest.dynamicTest(wanted.name, () -> {
                    Clip clip = clip(wanted.name);
                    VideoFacts video = clip.facts().video().orElseThrow();
                    List<String> shown = decoded(clip.source().head());
                    assertThat(shown).hasSize(video.structure().frames().size());
                    assertThat(shown)
                            .allSatisfy(
                                    line -> assertThat(line).contains("s:" + wanted.width + "x" + wanted.height + " "));
                    String format = shown.getFirst().replaceAll(".* fmt:(\\S+).*", "$1");
                    assertThat(format).isEqualTo(video.pixels().name());
                    long intra = shown.stream()
                            .filter(line -> line.contains(" type:I "))
                            .count();
                    assertThat(intra == shown.size()).isEqualTo(wanted.intra);
                    long keys = video.structure().frames().stream()
                            .filter(CodedFrame::key)
                            .count();
                    assertThat(intra)
                            .as("intra frames decoded, keyframes inspected")
                            .isEqualTo(keys);
                    boolean interlaced = shown.getFirst().contains(" i:T ")
                            || shown.getFirst().contains(" i:B ");
                    assertThat(interlaced).isEqualTo(video.scan().isInterlaced());
                }))
                .toList();
    }

    private List<String> decoded(Path file) throws IOException, InterruptedException {
        var builder = new ProcessBuilder(
                engine.ffmpegProgram().toString(),
                "-hide_banner",
                "-nostdin",
                "-v",
                "info",
                "-i",
                file.toString(),
                "-map",
                "0:v:0",
                "-vf",
                "showinfo=checksum=0",
                "-fps_mode",
                "passthrough",
                "-f",
                "null",
                "-");
        builder.environment()
                .put("LD_LIBRARY_PATH", String.valueOf(engine.ffmpegProgram().getParent()));
        builder.redirectErrorStream(true);
        Process process = builder.start();
        process.getOutputStream().close();
        List<String> lines;
        try (var reader = process.inputReader(StandardCharsets.UTF_8)) {
            lines = reader.lines()
                    .filter(line -> line.contains("showinfo") && line.contains(" pts:") && line.contains(" fmt:"))
                    .toList();
        }
        assertThat(process.waitFor(2, TimeUnit.MINUTES)).isTrue();
        return lines;
    }

    @TestFactory
    List<DynamicTest> sampleTablesAgree() {
        return table().stream()
                .filter(wanted -> !wanted.name.equals("R2_0007"))
                .map(wanted -> DynamicTest.dynamicTest(wanted.name, () -> {
                    Clip clip = clip(wanted.name);
                    VideoFacts video = clip.facts().video().orElseThrow();
                    try (var iso = new IsoFile(clip.source().head().toFile())) {
                        TrackBox track = iso.getMovieBox().getBoxes(TrackBox.class).stream()
                                .filter(t -> t.getMediaBox()
                                        .getHandlerBox()
                                        .getHandlerType()
                                        .equals("vide"))
                                .findFirst()
                                .orElseThrow();
                        var table = track.getMediaBox().getMediaInformationBox().getSampleTableBox();
                        SampleSizeBox sizes = table.getSampleSizeBox();
                        assertThat(sizes.getSampleCount())
                                .isEqualTo(video.structure().frames().size());
                        SyncSampleBox sync = table.getSyncSampleBox();
                        assertThat(sync == null)
                                .as("no sync table means that every sample is one")
                                .isEqualTo(wanted.intra);
                        if (sync != null) {
                            var keys = new ArrayList<Long>();
                            for (int i = 0; i < video.structure().frames().size(); i++) {
                                if (video.structure().frames().get(i).key()) {
                                    keys.add(i + 1L);
                                }
                            }
                            assertThat(sync.getSampleNumber())
                                    .containsExactly(keys.stream()
                                            .mapToLong(Long::longValue)
                                            .toArray());
                        }
                        long[] bytes = sizes.getSampleSizes();
                        for (int i = 0; i < bytes.length; i++) {
                            assertThat(video.structure().frames().get(i).bytes())
                                    .as("bytes of sample %d", i + 1)
                                    .isEqualTo((int) bytes[i]);
                        }
                        if (table.getSampleDescriptionBox().getSampleEntry() instanceof VisualSampleEntry entry) {
                            assertThat(entry.getWidth() + "x" + entry.getHeight())
                                    .isEqualTo(wanted.width + "x" + wanted.height);
                        } else {
                            // This reader knows no ProRes entry; the track's header states the shown raster.
                            assertThat(track.getTrackHeaderBox().getWidth()).isEqualTo(wanted.width);
                            assertThat(track.getTrackHeaderBox().getHeight()).isEqualTo(wanted.height);
                        }
                        if (wanted.frames > 0) {
                            List<TimeToSampleBox.Entry> times =
                                    table.getTimeToSampleBox().getEntries();
                            long scale = track.getMediaBox().getMediaHeaderBox().getTimescale();
                            assertThat(times.getFirst().getDelta() * (long) wanted.rate.numerator())
                                    .as("ticks a frame x rate")
                                    .isEqualTo(scale * wanted.rate.denominator());
                        }
                    }
                }))
                .toList();
    }

    @Test
    void whatGoesWrongOnCardsIsFoundAndNamed() {
        assertThat(scans.stream()
                        .flatMap(s -> s.unreadable().stream())
                        .map(u -> u.file().getFileName() + ": " + u.problem().why()))
                .containsExactlyInAnyOrder(
                        "N01_C009.MOV: its index is missing: the recording or the copy of it was cut off",
                        "W210036.MP4: the file is empty",
                        "H100_009.MOV: it is text, not media");
        assertThat(scans.stream().flatMap(s -> s.companions().stream())).hasSize(3);
        assertThat(scans.stream()
                        .flatMap(s -> s.clips().stream())
                        .filter(c -> c.name().equals("W210031"))
                        .map(Clip::fingerprint)
                        .distinct())
                .as("one recording on two volumes")
                .hasSize(1);
        Clip dome = clip("DOME [0001-0048]");
        assertThat(dome.facts().video().orElseThrow().rateKind()).isEqualTo(VideoFacts.RateKind.UNSTATED);
        assertThat(clip("Titles_v3").facts().video().orElseThrow().pixels().alpha())
                .isTrue();
        assertThat(clip("R2_0011").facts().video().orElseThrow().pixelAspect()).hasToString("4/3");
    }

    @Test
    void theFootageIsSmallAndIsNotMadeTwice() throws IOException, InterruptedException {
        var told = new ArrayList<String>();
        DemoFootage.in(FOLDER, engine, told::add);
        assertThat(told).isEmpty();
        try (var all = Files.walk(FOLDER)) {
            assertThat(all.mapToLong(f -> f.toFile().length()).sum()).isLessThan(200_000_000L);
        }
    }
}
