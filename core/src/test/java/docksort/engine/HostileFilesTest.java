package docksort.engine;

import static org.assertj.core.api.Assertions.assertThat;

import docksort.Footage;
import docksort.WithMedia;
import docksort.media.ClipSource;
import docksort.media.FrameRate;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import java.util.concurrent.Callable;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.api.parallel.Isolated;

/// Damaged and malicious files: every one is answered, within a time, without a crash, and nothing
/// outside the file is read.
@Isolated("looks at memory")
@WithMedia
class HostileFilesTest {
    private static final int MUTATED = 460;
    private static final String SECRET = "do not read me";

    @TempDir
    Path folder = Path.of("");

    private final MediaEngine engine = MediaEngine.locate();
    private final Inspector inspector = new Inspector(engine);

    @AfterEach
    void close() {
        engine.close();
    }

    @Test
    void aProgramThatSaysTheSameWithoutEndIsStopped() throws Exception {
        try (var children = new ChildProcesses(folder)) {
            var ending = children.run(
                    List.of("/bin/sh", "-c", "exec yes refused >&2"),
                    SignsOfLife.ofOutput(Duration.ofHours(1)),
                    ChildProcesses.OutputReader.lines(_ -> {}),
                    new Cancellation());
            assertThat(ending.isGood()).isFalse();
            assertThat(ending.lastLines()).contains("refused").last().asString().contains("without end");
        }
    }

    @Test
    void fiveHundredMutatedTruncatedAndHostileFilesAreAllAnswered() throws Exception {
        var files = new ArrayList<Path>(hostile());
        List<byte[]> seeds = seeds();
        var random = new Random(20_261);
        for (int i = 0; i < MUTATED; i++) {
            byte[] seed = seeds.get(i % seeds.size());
            String ending = List.of("mov", "mkv", "avi", "mxf", "ts", "mp4").get(i % seeds.size());
            files.add(Files.write(folder.resolve("mutated-" + i + "." + ending), mutated(seed, random, i)));
        }
        assertThat(files).hasSizeGreaterThanOrEqualTo(500);
        long before = used();
        int readable = 0;
        try (var pool = Executors.newFixedThreadPool(2)) {
            var answers = new ArrayList<Future<Inspection>>();
            for (Path file : files) {
                Callable<Inspection> look =
                        () -> inspector.inspect(new ClipSource.SingleFile(file), FrameRate.FPS_25, new Cancellation());
                answers.add(pool.submit(look));
            }
            for (int i = 0; i < files.size(); i++) {
                Inspection answer = answers.get(i).get(90, TimeUnit.SECONDS);
                switch (answer) {
                    case Inspection.Known _ -> readable++;
                    case Inspection.Unreadable bad -> {
                        assertThat(bad.problem().why())
                                .as("reason for %s", files.get(i))
                                .isNotBlank();
                        assertThat(bad.problem().toString()).doesNotContain(SECRET);
                    }
                }
            }
        }
        assertThat(readable).as("some mutations leave a file readable").isBetween(1, files.size() - 40);
        assertThat(used() - before).as("memory kept").isLessThan(64L * 1024 * 1024);
    }

    private static long used() {
        System.gc();
        Runtime runtime = Runtime.getRuntime();
        return runtime.totalMemory() - runtime.freeMemory();
    }

    private List<byte[]> seeds() throws InterruptedException, IOException {
        var footage = new Footage(engine);
        String[] x264 = {"-c:v", "libx264", "-preset", "ultrafast", "-g", "10", "-bf", "2"};
        return List.of(
                Files.readAllBytes(footage.clipWithSound(folder.resolve("seed.mov"), "64x64", "25", 30, x264)),
                Files.readAllBytes(footage.clip(folder.resolve("seed.mkv"), "64x64", "25", 30, x264)),
                Files.readAllBytes(footage.clip(folder.resolve("seed.avi"), "64x64", "25", 30, "-c:v", "mjpeg")),
                Files.readAllBytes(footage.clip(folder.resolve("seed.mxf"), "64x64", "25", 30, "-c:v", "mpeg2video")),
                Files.readAllBytes(footage.clip(folder.resolve("seed.ts"), "64x64", "25", 30, "-c:v", "mpeg2video")),
                Files.readAllBytes(footage.clipWithSound(
                        folder.resolve("seed.mp4"),
                        "64x64",
                        "30",
                        30,
                        "-c:v",
                        "libx265",
                        "-x265-params",
                        "log-level=none")));
    }

    /// Cut off, bytes flipped, numbers made huge, stretches zeroed, doubled or taken out: by turns.
    private static byte[] mutated(byte[] seed, Random random, int turn) {
        byte[] bytes = seed.clone();
        switch (turn % 5) {
            case 0 -> {
                return Arrays.copyOf(bytes, random.nextInt(bytes.length));
            }
            case 1 -> {
                for (int i = 0; i < 1 + random.nextInt(40); i++) {
                    bytes[random.nextInt(bytes.length)] = (byte) random.nextInt(256);
                }
            }
            case 2 -> {
                // In MOV and MP4 the header lies at the end: that is where huge numbers hurt.
                int from = bytes.length - Math.min(bytes.length, 3_000);
                for (int i = 0; i < 6; i++) {
                    int at = from + random.nextInt(Math.max(1, bytes.length - from - 4));
                    ByteBuffer.wrap(bytes).putInt(at, random.nextBoolean() ? -1 : 0x7FFF_FFFF);
                }
            }
            case 3 -> {
                int from = random.nextInt(bytes.length);
                Arrays.fill(bytes, from, Math.min(bytes.length, from + random.nextInt(4_000)), (byte) 0);
            }
            default -> {
                int cut = random.nextInt(bytes.length);
                byte[] out = new byte[bytes.length];
                System.arraycopy(bytes, cut, out, 0, bytes.length - cut);
                System.arraycopy(bytes, 0, out, bytes.length - cut, cut);
                return out;
            }
        }
        return bytes;
    }

    private List<Path> hostile() throws IOException {
        Path secret = Files.writeString(folder.resolve("secret.txt"), SECRET);
        var files = new ArrayList<Path>();
        List<String> playlists = List.of(
                "#EXTM3U\n#EXTINF:10,\n" + secret + "\n",
                "#EXTM3U\n#EXTINF:10,\nhttp://127.0.0.1:9/a.ts\n",
                "ffconcat version 1.0\nfile '" + secret + "'\n",
                "<?xml version=\"1.0\"?><MPD><Period><BaseURL>http://127.0.0.1:9/</BaseURL></Period></MPD>",
                "v=0\no=- 0 0 IN IP4 127.0.0.1\nm=video 9 RTP/AVP 96\n",
                "[playlist]\nFile1=" + secret + "\n",
                "subfile,,start,0,end,100,,:" + secret,
                "\u0000\u0000\u0000\u0000concat:" + secret);
        List<String> endings = List.of("mov", "mp4", "ts", "mkv");
        for (int i = 0; i < playlists.size(); i++) {
            for (String ending : endings) {
                files.add(Files.writeString(folder.resolve("list-" + i + "." + ending), playlists.get(i)));
            }
        }
        files.add(Files.write(folder.resolve("deep.mov"), nested(200_000)));
        files.add(Files.write(folder.resolve("many.mov"), manyBoxes(300_000)));
        files.add(Files.write(folder.resolve("huge-count.mov"), hugeCount()));
        files.add(Files.write(folder.resolve("huge-size.mov"), box("moov", new byte[] {1}, 0xFFFF_FFFFL)));
        files.add(Files.write(folder.resolve("negative.mov"), box("ftyp", new byte[16], 0xFFFF_FFF0L)));
        files.add(Files.write(folder.resolve("empty.mov"), new byte[0]));
        files.add(Files.write(folder.resolve("zeros.mxf"), new byte[100_000]));
        files.add(Files.createSymbolicLink(folder.resolve("loop.mov"), folder.resolve("loop.mov")));
        return files;
    }

    private static byte[] box(String type, byte[] content, long size) {
        return ByteBuffer.allocate(8 + content.length)
                .putInt((int) size)
                .put(type.getBytes(StandardCharsets.ISO_8859_1))
                .put(content)
                .array();
    }

    private static byte[] nested(int bytes) {
        ByteBuffer out = ByteBuffer.allocate(bytes);
        while (out.remaining() >= 8) {
            out.putInt(out.remaining())
                    .put((out.position() % 16 == 4 ? "moov" : "trak").getBytes(StandardCharsets.ISO_8859_1));
        }
        return out.array();
    }

    private static byte[] manyBoxes(int count) {
        ByteBuffer out = ByteBuffer.allocate(8 + count * 8).putInt(8 + count * 8);
        out.put("moov".getBytes(StandardCharsets.ISO_8859_1));
        for (int i = 0; i < count; i++) {
            out.putInt(8).put("free".getBytes(StandardCharsets.ISO_8859_1));
        }
        return out.array();
    }

    /// A sample table that announces four thousand million samples, of one size, in a file of a few bytes.
    private static byte[] hugeCount() {
        byte[] sizes = ByteBuffer.allocate(12).putInt(0).putInt(1).putInt(-1).array();
        byte[] times =
                ByteBuffer.allocate(16).putInt(0).putInt(1).putInt(-1).putInt(1).array();
        byte[] description = new byte[102];
        ByteBuffer.wrap(description).putInt(4, 1).putInt(8, 94).put("avc1".getBytes(StandardCharsets.ISO_8859_1));
        byte[] table = joined(box("stsd", description, 110), box("stts", times, 24), box("stsz", sizes, 20));
        byte[] handler = new byte[24];
        ByteBuffer.wrap(handler).position(8).put("vide".getBytes(StandardCharsets.ISO_8859_1));
        byte[] header = new byte[24];
        ByteBuffer.wrap(header).putInt(12, 25);
        byte[] info = box("minf", box("stbl", table, table.length + 8L), table.length + 16L);
        byte[] media = joined(box("mdhd", header, 32), box("hdlr", handler, 32), info);
        byte[] track = box("trak", box("mdia", media, media.length + 8L), media.length + 16L);
        return joined(box("ftyp", new byte[8], 16), box("moov", track, track.length + 8L));
    }

    private static byte[] joined(byte[]... parts) {
        int length = Arrays.stream(parts).mapToInt(part -> part.length).sum();
        ByteBuffer out = ByteBuffer.allocate(length);
        for (byte[] part : parts) {
            out.put(part);
        }
        return out.array();
    }
}
