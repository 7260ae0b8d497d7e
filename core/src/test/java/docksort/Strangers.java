package docksort;

import docksort.media.FrameRate;
import java.io.IOException;
import java.io.RandomAccessFile;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.regex.Pattern;
import java.util.stream.Stream;

/// Media as strangers bring it: made by another build and generation of tools than the program's own, the
/// system's `ffmpeg`, and some of it damaged afterwards. Frames are numbered as [FrameNumbers] reads
/// them; a click of four milliseconds sounds 0.4 s into every second.
public final class Strangers {
    /// The system's own build (Debian's package `ffmpeg`), never the one that ships with the program.
    public static final String OTHER_ENGINE = "/usr/bin/ffmpeg";

    private static final String X264 = "-c:v libx264 -preset ultrafast -pix_fmt yuv420p";
    private static final String X265 = "-c:v libx265 -preset ultrafast -pix_fmt yuv420p -x265-params log-level=none";
    private static final String VP9 = "-c:v libvpx-vp9 -deadline realtime -cpu-used 8 -g 12";
    private static final String REFRESH =
            X264 + " -tune zerolatency -x264-params intra-refresh=1:keyint=30:bframes=0:ref=1";
    private static final String IMX = "-c:v mpeg2video -pix_fmt yuv422p -minrate 50000k -maxrate 50000k -b:v 50000k"
            + " -intra_vlc 1 -non_linear_quant 1 -dc 10 -g 1 -flags +ildct+low_delay -ps 1 -qmin 1 -qmax 3 -top 1"
            + " -bufsize 2000000 -rc_init_occupancy 2000000 -rc_buf_aggressivity 0.25";

    private Strangers() {}

    /// One clip and what is true of it.
    ///
    /// @param words what must be found: `tff`, `bff`, `alpha`, `vfr`, `holes`, `damaged`, `loose`,
    ///     `rate=`, `sar=`, `keys=`, `ask` (its rate is asked for), `no:RECIPE=REASON` for copies that
    ///     cannot be made, and `do:` for what is done to the file afterwards
    public record Kind(
            String name, int frames, String rate, String raster, int channels, String arguments, List<String> words) {
        @Override
        public String toString() {
            return name;
        }

        public boolean has(String word) {
            return words.contains(word);
        }

        public Optional<String> value(String key) {
            return words.stream()
                    .filter(word -> word.startsWith(key + "="))
                    .map(word -> word.substring(key.length() + 1))
                    .findFirst();
        }

        /// The reason that must be given in the plan for a recipe that cannot make a copy of this.
        public Optional<Pattern> refusal(String recipe) {
            return Stream.of(recipe, "*")
                    .flatMap(id -> value("no:" + id).stream())
                    .findFirst()
                    .map(reason -> Pattern.compile(reason.replace('_', ' ')));
        }
    }

    /// All kinds, from the table beside this class.
    public static List<Kind> kinds() {
        try (var in = Strangers.class.getResourceAsStream("strangers.txt")) {
            String text = new String(Objects.requireNonNull(in).readAllBytes(), StandardCharsets.UTF_8);
            return text.lines()
                    .filter(line -> !line.isBlank() && !line.startsWith("#"))
                    .map(line -> line.split(" \\| ", -1))
                    .map(c -> new Kind(
                            c[0].strip(),
                            Integer.parseInt(c[1].strip()),
                            c[2].strip(),
                            c[3].strip(),
                            Integer.parseInt(c[4].strip()),
                            c[5].strip(),
                            List.of(c[6].strip().split(" ", -1))))
                    .toList();
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /// Makes a clip in a folder of its own.
    public static Path make(Kind kind, Path folder) throws IOException, InterruptedException {
        Path file = Files.createDirectories(folder.resolve(kind.name.replaceAll("\\W", "_")))
                .resolve(kind.name.replace("#", "0001"));
        var line = new ArrayList<String>(List.of(OTHER_ENGINE, "-nostdin", "-y", "-v", "error", "-f", "lavfi", "-i"));
        String alpha = kind.has("alpha") ? ",format=rgba,colorchannelmixer=aa=0.6" : "";
        line.add("testsrc2=size=" + kind.raster + ":rate=" + kind.rate + "," + FrameNumbers.painted() + alpha);
        if (kind.channels > 0) {
            double seconds = kind.value("sound")
                    .map(Double::parseDouble)
                    .orElse(FrameRate.parse(kind.rate).secondsOf(kind.frames).toDouble());
            line.addAll(List.of("-f", "lavfi", "-i", clicks(seconds), "-ac", Integer.toString(kind.channels)));
        }
        line.addAll(List.of("-frames:v", Integer.toString(kind.frames)));
        for (String word : kind.arguments
                .replace("{x264}", X264)
                .replace("{x265}", X265)
                .replace("{vp9}", VP9)
                .replace("{refresh}", REFRESH)
                .replace("{imx}", IMX)
                .split(" ", -1)) {
            line.add(word.replace("%20", " "));
        }
        line.add("file:" + file.resolveSibling(kind.name.replace("#", "%04d")));
        run(line);
        for (String word : kind.words) {
            if (word.startsWith("do:")) {
                afterwards(word.substring(3), file);
            }
        }
        return file;
    }

    public static String clicks(double seconds) {
        return "aevalsrc='if(lt(mod(t-0.4+4,1),0.004),0.9*sin(2*PI*1000*t),0)':s=48000:d=" + seconds;
    }

    /// Runs a program of the system and expects it to end well.
    public static byte[] run(List<String> line) throws IOException, InterruptedException {
        Path errors = Files.createTempFile("other-engine", ".txt");
        try {
            Process process =
                    new ProcessBuilder(line).redirectError(errors.toFile()).start();
            process.getOutputStream().close();
            byte[] out = process.getInputStream().readAllBytes();
            if (process.waitFor() != 0) {
                throw new IOException(String.join(" ", line) + ": " + Files.readString(errors));
            }
            return out;
        } finally {
            Files.deleteIfExists(errors);
        }
    }

    private static void afterwards(String what, Path file) throws IOException {
        String[] words = what.split("=", 2);
        long bytes = Files.size(file);
        switch (words[0]) {
            case "cut" -> {
                try (var out = new RandomAccessFile(file.toFile(), "rw")) {
                    out.setLength((long) (bytes * Double.parseDouble(words[1])));
                }
            }
            case "zero" -> { // bytes in the middle of the data
                try (var out = new RandomAccessFile(file.toFile(), "rw")) {
                    out.seek((long) (bytes * Double.parseDouble(words[1])));
                    out.write(new byte[(int) (bytes / 12)]);
                }
            }
            case "twice" -> Files.write(file, Files.readAllBytes(file), StandardOpenOption.APPEND);
            default -> throw new IllegalArgumentException(what);
        }
    }
}
