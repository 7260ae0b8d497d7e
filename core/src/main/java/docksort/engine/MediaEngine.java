package docksort.engine;

import docksort.engine.ChildProcesses.Ending;
import docksort.engine.ChildProcesses.OutputReader;
import docksort.media.ClipSource;
import docksort.media.FrameRate;
import docksort.media.Raster;
import docksort.media.Rational;
import docksort.problem.CoreException;
import docksort.problem.CoreException.ToolMissing;
import docksort.problem.Problem;
import java.io.ByteArrayOutputStream;
import java.io.File;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.concurrent.atomic.AtomicReference;
import java.util.function.Consumer;
import org.bytedeco.javacpp.Loader;
import org.jspecify.annotations.Nullable;

/// The media engine: the `ffmpeg` and `ffprobe` programs of one folder, and every child process started
/// from them. Closing it ends the children. Safe for use by several threads.
public final class MediaEngine implements AutoCloseable {
    /// Environment variable with the folder of an installed engine to use instead of the bundled one.
    public static final String FOLDER_VARIABLE = "DOCKSORT_FFMPEG";

    private static final Duration PROBE_SILENCE = Duration.ofSeconds(60);
    /// Environment variable with the seconds after which an encoder that says and does nothing is ended; one
    /// that goes on reporting is ended after five times as many.
    public static final String SILENCE_VARIABLE = "DOCKSORT_SILENCE";

    private static final long USUAL_SILENCE_SECONDS = 120;

    private final Duration encodeSilence = encodeSilence();

    private final Path ffmpeg;
    private final Path ffprobe;
    private final ChildProcesses children;
    private final AtomicReference<@Nullable PixelFormats> pixelFormats = new AtomicReference<>();

    private static Duration encodeSilence() {
        String seconds = System.getenv(SILENCE_VARIABLE);
        boolean stated = seconds != null && seconds.matches("[1-9]\\d{0,5}");
        return Duration.ofSeconds(stated ? Long.parseLong(seconds) : USUAL_SILENCE_SECONDS);
    }

    /// How long an encoder may say nothing, where it does nothing.
    Duration longestSilence() {
        return encodeSilence;
    }

    /// How long an encoder may say that it does nothing.
    Duration longestStandstill() {
        return SignsOfLife.standstill(encodeSilence);
    }

    private MediaEngine(Path ffmpeg, Path ffprobe) {
        this.ffmpeg = ffmpeg;
        this.ffprobe = ffprobe;
        Path folder = ffmpeg.getParent();
        this.children = new ChildProcesses(folder == null ? Path.of(".") : folder);
    }

    /// The configured engine where [#FOLDER_VARIABLE] names one, otherwise the bundled one.
    ///
    /// @throws ToolMissing when neither can be used
    public static MediaEngine locate() {
        String folder = System.getenv(FOLDER_VARIABLE);
        return folder == null || folder.isBlank() ? bundled() : inFolder(Path.of(folder));
    }

    public static MediaEngine inFolder(Path folder) {
        String ending = File.separatorChar == '\\' ? ".exe" : "";
        Path ffmpeg = folder.resolve("ffmpeg" + ending);
        Path ffprobe = folder.resolve("ffprobe" + ending);
        for (Path program : List.of(ffmpeg, ffprobe)) {
            if (!Files.isExecutable(program)) {
                throw new ToolMissing(
                        new Problem(
                                "The media engine is not in " + folder,
                                program + " cannot be run",
                                "Nothing was changed.",
                                "Correct " + FOLDER_VARIABLE
                                        + ", or unset it to use the engine that ships with the program."),
                        new IOException(program.toString()));
            }
        }
        return new MediaEngine(ffmpeg, ffprobe);
    }

    private static MediaEngine bundled() {
        try {
            // Only unpacked, not loaded: what a file contains is decoded in a process of its own.
            Path ffmpeg = unpacked(org.bytedeco.ffmpeg.ffmpeg.class, "ffmpeg");
            Path ffprobe =
                    ffmpeg.resolveSibling(String.valueOf(ffmpeg.getFileName()).replace("ffmpeg", "ffprobe"));
            if (!Files.exists(ffprobe)) {
                throw new IOException("ffprobe was not unpacked beside " + ffmpeg);
            }
            return new MediaEngine(ffmpeg, ffprobe);
        } catch (IOException | UnsatisfiedLinkError e) {
            throw new ToolMissing(
                    new Problem(
                            "The bundled media engine cannot be unpacked",
                            String.valueOf(e.getMessage()),
                            "Nothing was changed.",
                            "Set " + FOLDER_VARIABLE + " to the folder of an installed ffmpeg and ffprobe."),
                    e);
        }
    }

    private static Path unpacked(Class<?> program, String name) throws IOException {
        String platform = Loader.getPlatform();
        String resource = "/org/bytedeco/ffmpeg/" + platform + "-gpl/";
        File[] folder = Loader.cacheResources(program, resource);
        if (folder.length == 0 || folder[0] == null) {
            throw new IOException("there is none for " + platform);
        }
        String ending = platform.startsWith("windows") ? ".exe" : "";
        Path found = folder[0].toPath().resolve(name + ending);
        for (String each : List.of(name + ending, name.replace("mpeg", "probe") + ending)) {
            Path file = found.resolveSibling(each);
            if (Files.exists(file)
                    && !Files.isExecutable(file)
                    && !file.toFile().setExecutable(true)) {
                throw new IOException("cannot make " + file + " executable");
            }
        }
        return found;
    }

    /// Starts a program of ours that answers what it is asked, watched like the engine's own.
    ChildProcesses.Conversation converse(List<String> arguments) throws IOException, InterruptedException {
        return children.converse(arguments);
    }

    /// All pixel formats that it knows, asked for once.
    PixelFormats pixelFormats() throws InterruptedException {
        PixelFormats known = pixelFormats.get();
        if (known == null) {
            known = PixelFormats.of(this);
            pixelFormats.set(known);
        }
        return known;
    }

    /// The engine's own words for its version.
    ///
    /// @throws ToolMissing when it does not start, for instance because a system library is missing
    public String version() throws InterruptedException {
        var first = new ArrayList<String>();
        try {
            Ending ending = children.run(
                    List.of(ffmpeg.toString(), "-version"),
                    SignsOfLife.ofAnswers(PROBE_SILENCE),
                    OutputReader.lines(line -> {
                        if (first.isEmpty()) {
                            first.add(line);
                        }
                    }),
                    new Cancellation());
            if (ending.isGood() && !first.isEmpty()) {
                return first.getFirst();
            }
            throw new IOException(String.join(" ", ending.lastLines()));
        } catch (IOException e) {
            throw new ToolMissing(
                    new Problem(
                            "The media engine does not start: " + ffmpeg,
                            String.valueOf(e.getMessage()),
                            "Nothing was changed.",
                            "On Debian: apt-get install libpulse0 libva2 libva-drm2."),
                    e);
        }
    }

    public Path ffmpegProgram() {
        return ffmpeg;
    }

    public Path ffprobeProgram() {
        return ffprobe;
    }

    Ending probe(List<String> arguments, OutputReader output, Cancellation cancellation)
            throws IOException, InterruptedException {
        var line = new ArrayList<String>();
        line.add(ffprobe.toString());
        line.addAll(arguments);
        return children.run(line, SignsOfLife.ofAnswers(PROBE_SILENCE), output, cancellation);
    }

    /// Runs ffmpeg so that filters tell their results on its error stream.
    Ending tell(List<String> arguments, OutputReader output, Cancellation cancellation)
            throws IOException, InterruptedException {
        var line =
                new ArrayList<String>(List.of(ffmpeg.toString(), "-hide_banner", "-nostdin", "-nostats", "-v", "info"));
        line.addAll(arguments);
        return children.run(line, SignsOfLife.ofOutput(encodeSilence), output, cancellation);
    }

    /// Runs ffmpeg so that its output is what it decodes.
    Ending raw(List<String> arguments, OutputReader output, ProcessControl control)
            throws IOException, InterruptedException {
        // The statistics are a sign of life where little is written.
        var line = new ArrayList<String>(
                List.of(ffmpeg.toString(), "-hide_banner", "-nostdin", "-v", "error", "-stats", "-stats_period", "5"));
        line.addAll(arguments);
        return children.run(line, SignsOfLife.ofOutput(encodeSilence), output, control);
    }

    /// A piece of a picture at its own pixels, as PNG bytes.
    ///
    /// @param seconds how far into the clip
    /// @param scaled the raster the picture is brought to before, so that copies are seen as large as
    ///     originals
    /// @param size what is cut from the middle
    public Optional<byte[]> crop(ClipSource source, Rational seconds, Raster scaled, boolean rgb, Raster size)
            throws InterruptedException {
        int width = Math.min(size.width(), scaled.width());
        int height = Math.min(size.height(), scaled.height());
        return png(
                source,
                seconds,
                PictureLoss.comparable(rgb) + ",scale=" + scaled.width() + ":" + scaled.height() + ",crop=" + width
                        + ":" + height + ",setsar=1");
    }

    /// Asks ffmpeg about itself.
    void tool(List<String> arguments, Consumer<String> lines) throws IOException, InterruptedException {
        var line = new ArrayList<String>(List.of(ffmpeg.toString(), "-hide_banner", "-v", "error"));
        line.addAll(arguments);
        Ending ending =
                children.run(line, SignsOfLife.ofAnswers(PROBE_SILENCE), OutputReader.lines(lines), new Cancellation());
        if (!ending.isGood()) {
            throw new IOException(String.join(" ", ending.lastLines()));
        }
    }

    /// Runs ffmpeg with the given arguments behind the ones that every run has.
    Ending encode(List<String> arguments, Consumer<String> progressLines, ProcessControl control)
            throws IOException, InterruptedException {
        return encode(arguments, progressLines, _ -> {}, control);
    }

    /// @param begun hears of the process before it says anything
    Ending encode(
            List<String> arguments,
            Consumer<String> progressLines,
            Consumer<ProcessHandle> begun,
            ProcessControl control)
            throws IOException, InterruptedException {
        var line = new ArrayList<String>();
        line.add(ffmpeg.toString());
        line.addAll(List.of(
                "-hide_banner", "-nostdin", "-y", "-v", "error", "-progress", "pipe:1", "-stats_period", "0.25"));
        line.addAll(arguments);
        var signs = SignsOfLife.ofReports(encodeSilence);
        OutputReader reports = OutputReader.lines(said -> {
            signs.report(said);
            progressLines.accept(said);
        });
        return children.run(line, signs, reports, begun, control);
    }

    /// One small picture of a clip as PNG bytes, for looking at.
    ///
    /// @param seconds how far into the clip
    /// @param width width of the picture; its height follows
    /// @return empty when none could be decoded
    public Optional<byte[]> picture(ClipSource source, Rational seconds, int width) throws InterruptedException {
        return png(source, seconds, "scale=" + width + ":-2,setsar=1");
    }

    private Optional<byte[]> png(ClipSource source, Rational seconds, String filters) throws InterruptedException {
        var line = new ArrayList<String>(List.of(ffmpeg.toString(), "-hide_banner", "-nostdin", "-v", "error"));
        boolean stills = source instanceof ClipSource.NumberedStills;
        if (!stills) {
            line.addAll(List.of("-ss", String.format(Locale.ROOT, "%.3f", seconds.toDouble())));
        }
        line.addAll(input(source, Optional.empty()));
        line.addAll(List.of("-map", "0:V:0", "-frames:v", "1", "-vf", filters));
        line.addAll(List.of("-c:v", "png", "-f", "image2pipe", "pipe:1"));
        var bytes = new ByteArrayOutputStream();
        try {
            Ending ending = children.run(
                    line, SignsOfLife.ofAnswers(PROBE_SILENCE), in -> in.transferTo(bytes), new Cancellation());
            return ending.isGood() && bytes.size() > 0 ? Optional.of(bytes.toByteArray()) : Optional.empty();
        } catch (IOException e) {
            return Optional.empty(); // a clip without a picture to show is told of by its inspection
        }
    }

    /// Runs ffmpeg with arguments of the caller's, for painting footage and for measuring.
    ///
    /// @throws docksort.problem.CoreException.ToolFailed when it does not end well
    public void run(List<String> arguments) throws InterruptedException {
        try {
            Ending ending = encode(arguments, _ -> {}, ProcessControl.of(new Cancellation()));
            if (!ending.isGood()) {
                throw new CoreException.ToolFailed(new Problem(
                        "The media engine failed",
                        "exit code " + ending.exitCode() + ": " + String.join(" | ", ending.lastLines()),
                        "",
                        ""));
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /// The arguments that open a clip: only local files, only the formats we know how to treat, never a
    /// path that could be taken for an option or a protocol.
    static List<String> input(ClipSource source, Optional<FrameRate> stillsRate) {
        FrameRate rate = stillsRate.orElse(FrameRate.FPS_25);
        return switch (source) {
            case ClipSource.SingleFile single ->
                List.of(
                        "-protocol_whitelist",
                        "file",
                        "-format_whitelist",
                        Formats.READ,
                        "-i",
                        url(single.head().toAbsolutePath().toString()));
            case ClipSource.NumberedStills stills
            when stills.missing().isEmpty() ->
                List.of(
                        "-protocol_whitelist",
                        "file",
                        "-f",
                        "image2",
                        "-pattern_type",
                        "sequence",
                        "-start_number",
                        Integer.toString(stills.first()),
                        "-framerate",
                        rate.toString(),
                        "-i",
                        url(pattern(stills)));
            case ClipSource.NumberedStills stills -> PartsList.ofStretches(stills, pattern(stills), rate);
            case ClipSource.Spanned spanned -> PartsList.of(spanned);
        };
    }

    private static String pattern(ClipSource.NumberedStills stills) {
        return stills.folder().toAbsolutePath().toString().replace("%", "%%")
                + File.separator
                + stills.prefix().replace("%", "%%")
                + "%0" + stills.digits() + "d"
                + stills.suffix().replace("%", "%%");
    }

    static String url(String path) {
        return "file:" + path;
    }

    @Override
    public void close() {
        children.close();
    }
}
