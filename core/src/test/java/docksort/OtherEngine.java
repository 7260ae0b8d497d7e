package docksort;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/// Reads files by another build of the media engine than the program's, from the first byte to the last:
/// what it decodes is what is there.
public final class OtherEngine {
    private static final int WIDTH = 96;
    private static final int HEIGHT = 54;
    private static final double TICKS = 90_000;

    private OtherEngine() {}

    /// All of a file.
    ///
    /// @param numbers on its pictures, in the order shown
    /// @param times seconds at which they are shown, on the file's own clock
    /// @param clicks seconds at which its first stream of sound clicks, on the same clock
    public record Seen(List<Integer> numbers, List<Double> times, List<Double> clicks) {
        /// The clicks, counted from the first picture.
        public List<Double> clicksFromPicture() {
            double first = times.isEmpty() ? 0 : times.getFirst();
            return clicks.stream().map(click -> click - first).toList();
        }
    }

    /// @param sounds whether there is sound in it
    public static Seen see(Path file, boolean sounds, Path scratch) throws IOException, InterruptedException {
        return see(List.of(file), sounds, scratch).getFirst();
    }

    /// All of some files by one process: it takes longer to start than to read a small file.
    ///
    /// @param sounds whether there is sound in them
    public static List<Seen> see(List<Path> files, boolean sounds, Path scratch)
            throws IOException, InterruptedException {
        Path folder = Files.createTempDirectory(scratch, "seen");
        var line = new ArrayList<String>(List.of(Strangers.OTHER_ENGINE, "-nostdin", "-y", "-v", "quiet", "-copyts"));
        for (Path file : files) {
            line.addAll(List.of("-i", "file:" + file));
        }
        for (int i = 0; i < files.size(); i++) {
            line.addAll(List.of("-map", i + ":V:0", "-vsync", "passthrough", "-vf"));
            line.addAll(List.of("scale=" + WIDTH + ":" + HEIGHT + ":flags=area:out_range=pc,format=gray"));
            line.addAll(List.of("-f", "rawvideo", "file:" + folder.resolve("grey" + i)));
            line.addAll(List.of("-map", i + ":V:0", "-vsync", "passthrough", "-vf", "scale=16:16,settb=1/90000"));
            line.addAll(List.of("-enc_time_base", "1/90000", "-f", "framecrc", "file:" + folder.resolve("shown" + i)));
            if (sounds) {
                // From the clock's zero on; where packets leave a gap there is silence, as a player has it.
                String even = "aresample=async=1:min_hard_comp=0.005:first_pts=0";
                line.addAll(List.of("-map", i + ":a:0", "-af", even, "-ac", "1", "-ar", "48000"));
                line.addAll(List.of("-f", "s16le", "file:" + folder.resolve("sound" + i)));
            }
        }
        // A damaged file makes it end with an error after all that decodes has been written.
        Process process = new ProcessBuilder(line)
                .redirectError(ProcessBuilder.Redirect.DISCARD)
                .redirectOutput(ProcessBuilder.Redirect.DISCARD)
                .start();
        process.waitFor();
        var seen = new ArrayList<Seen>();
        for (int i = 0; i < files.size(); i++) {
            Path sound = folder.resolve("sound" + i);
            seen.add(new Seen(
                    numbers(folder.resolve("grey" + i)),
                    times(folder.resolve("shown" + i), TICKS),
                    Files.exists(sound) ? clicks(sound, 0) : List.of()));
        }
        try (var written = Files.newDirectoryStream(folder)) {
            for (Path each : written) {
                Files.delete(each);
            }
        }
        Files.delete(folder);
        return seen;
    }

    /// What the other engine's prober says of the first picture stream.
    public static Map<String, String> picture(Path file) throws IOException, InterruptedException {
        byte[] out = Strangers.run(List.of(
                Strangers.OTHER_ENGINE.replace("ffmpeg", "ffprobe"),
                "-v",
                "quiet",
                "-select_streams",
                "V:0",
                "-show_entries",
                "stream=width,height,sample_aspect_ratio,field_order,pix_fmt,r_frame_rate"
                        + ":frame=interlaced_frame,top_field_first",
                "-read_intervals",
                "%+#1",
                "-of",
                "default=nw=1",
                "file:" + file));
        Map<String, String> said = new TreeMap<>();
        new String(out, StandardCharsets.UTF_8)
                .lines()
                .map(text -> text.split("=", 2))
                .filter(pair -> pair.length == 2)
                .forEach(pair -> said.put(pair[0], pair[1]));
        return said;
    }

    private static List<Integer> numbers(Path grey) throws IOException {
        if (!Files.exists(grey)) {
            return List.of();
        }
        byte[] all = Files.readAllBytes(grey);
        var numbers = new ArrayList<Integer>();
        for (int at = 0; at + WIDTH * HEIGHT <= all.length; at += WIDTH * HEIGHT) {
            int from = at;
            numbers.add(FrameNumbers.number(WIDTH, HEIGHT, i -> all[from + i] & 0xFF));
        }
        return numbers;
    }

    /// The time shown of each line of the muxer `framecrc` (ffmpeg-formats manual).
    private static List<Double> times(Path file, double ticks) throws IOException {
        if (!Files.exists(file)) {
            return List.of();
        }
        return Files.readAllLines(file).stream()
                .filter(text -> !text.startsWith("#"))
                .map(text -> Long.parseLong(text.split(",", -1)[2].strip()) / ticks)
                .toList();
    }

    private static List<Double> clicks(Path sound, double start) throws IOException {
        var samples = ByteBuffer.wrap(Files.readAllBytes(sound))
                .order(ByteOrder.LITTLE_ENDIAN)
                .asShortBuffer();
        int most = 0;
        for (int i = 0; i < samples.limit(); i++) {
            most = Math.max(most, Math.abs(samples.get(i)));
        }
        var found = new ArrayList<Double>();
        int quiet = 24_000;
        for (int i = 0; i < samples.limit() && most > 300; i++) {
            boolean loud = Math.abs(samples.get(i)) > most / 4;
            if (loud && quiet > 12_000) {
                found.add(start + i / 48_000.0);
            }
            quiet = loud ? 0 : quiet + 1;
        }
        return found;
    }
}
