package docksort.engine;

import docksort.engine.ChildProcesses.Cut;
import docksort.engine.ChildProcesses.Ending;
import docksort.media.ClipSource;
import docksort.media.FrameRate;
import docksort.problem.Causes;
import docksort.problem.Problem;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/// Turns a file, or numbered stills, into facts with one or two short runs of ffprobe.
///
/// The first run reads the headers and the packets of the whole file if it is small, otherwise a short window.
/// A large file whose codec does not tell how its frames depend on each other is read once more, pictures only,
/// for a window that is long enough for the usual keyframe intervals; such streams have a low data rate, so the
/// window stays cheap.
public final class Inspector {
    private static final long SMALL_FILE_BYTES = 48L * 1024 * 1024;
    private static final int PACKETS_OF_SMALL_FILE = 3_000;
    private static final int PACKETS_OF_HEAD = 48;
    private static final int PACKETS_OF_WINDOW = 1_500;
    private static final String UNTOUCHED = "The file is as it was; the other files go on.";

    private final MediaEngine engine;

    public Inspector(MediaEngine engine) {
        this.engine = engine;
    }

    /// @param stillsRate how many numbered stills make a second; ignored for media that state a rate
    /// @throws InterruptedException when the calling thread is interrupted; the child process is ended
    public Inspection inspect(ClipSource source, FrameRate stillsRate, Cancellation cancellation)
            throws InterruptedException {
        try {
            Optional<String> early = reasonBeforeLooking(source);
            if (early.isPresent()) {
                return unreadable(source, early.get());
            }
            return look(source, stillsRate, cancellation);
        } catch (IOException e) {
            return unreadable(source, Causes.inWords(e));
        } catch (IllegalArgumentException | ArithmeticException e) {
            return unreadable(source, "its headers contradict themselves (" + e.getMessage() + ")");
        }
    }

    private Inspection look(ClipSource source, FrameRate stillsRate, Cancellation cancellation)
            throws IOException, InterruptedException {
        long bytes = totalBytes(source);
        boolean stills = source instanceof ClipSource.NumberedStills;
        int window = stills ? 1 : bytes <= SMALL_FILE_BYTES ? PACKETS_OF_SMALL_FILE : PACKETS_OF_HEAD;
        Answer first = ask(source, stillsRate, window, false, cancellation);
        if (first.ending.cut() == Cut.CANCELLED) {
            return unreadable(source, "looking was cancelled");
        }
        if (first.ending.cut() == Cut.SILENT) {
            return unreadable(source, "the media engine did not answer within a minute");
        }
        if (!first.ending.isGood() || !first.reader.hasStreams()) {
            return unreadable(source, reason(first.ending));
        }
        if (!stills && first.reader.packetCount() >= window && first.reader.needsLongerWindow()) {
            Answer second = ask(source, stillsRate, PACKETS_OF_WINDOW, true, cancellation);
            if (second.ending.isGood()) {
                first.reader.replacePackets(second.reader);
                window = PACKETS_OF_WINDOW;
            }
        }
        return new Inspection.Known(
                first.reader.facts(source, bytes, stillsRate, window, plainComplaints(first.ending.lastLines())));
    }

    private record Answer(Ending ending, ProbeReader reader) {}

    private Answer ask(
            ClipSource source, FrameRate stillsRate, int packets, boolean picturesOnly, Cancellation cancellation)
            throws IOException, InterruptedException {
        var arguments = new ArrayList<String>(List.of("-v", "error", "-hide_banner", "-of", "json=c=1"));
        if (picturesOnly) {
            arguments.addAll(
                    List.of("-select_streams", "V:0", "-show_entries", "packet=stream_index,pts,dts,size,flags"));
        } else {
            arguments.addAll(List.of("-show_format", "-show_streams"));
            arguments.addAll(List.of("-show_entries", "packet=stream_index,pts,dts,size,flags"));
        }
        arguments.addAll(List.of("-read_intervals", "%+#" + packets));
        arguments.addAll(MediaEngine.input(source, Optional.of(stillsRate)));
        var reader = new ProbeReader();
        Ending ending = engine.probe(arguments, reader::read, cancellation);
        return new Answer(ending, reader);
    }

    private static long totalBytes(ClipSource source) throws IOException {
        long total = 0;
        for (Path file : source.files()) {
            total += Files.size(file);
        }
        return total;
    }

    /// Cheap checks whose answer is clearer than the engine's.
    private static Optional<String> reasonBeforeLooking(ClipSource source) throws IOException {
        Path file = source.head();
        if (!Files.isRegularFile(file)) {
            return Optional.of(Files.exists(file) ? "it is not a file" : "it is not there");
        }
        if (Files.size(file) == 0) {
            return Optional.of("the file is empty");
        }
        try (var in = Files.newInputStream(file)) {
            return looksLikeText(in.readNBytes(512)) ? Optional.of("it is text, not media") : Optional.empty();
        }
    }

    private static boolean looksLikeText(byte[] head) {
        String text = new String(head, StandardCharsets.UTF_8);
        return !text.isEmpty()
                && text.chars()
                        .limit(Math.max(1, text.length() - 1))
                        .allMatch(c -> (c >= ' ' && c != 0xFFFD) || c == '\n' || c == '\r' || c == '\t');
    }

    private static String reason(Ending ending) {
        String all = String.join(" ", ending.lastLines());
        String lower = all.toLowerCase(Locale.ROOT);
        if (lower.contains("moov atom not found")) {
            return "its index is missing: the recording or the copy of it was cut off";
        }
        if (lower.contains("format not on whitelist") || lower.contains("not in whitelist")) {
            return "its kind of file is not opened here, because it can name other files or network addresses";
        }
        if (lower.contains("invalid data found") || lower.contains("could not find codec parameters")) {
            return "it is damaged or not media";
        }
        if (lower.contains("permission denied")) {
            return "this account may not open it";
        }
        if (all.isBlank()) {
            return "no picture and no sound was found in it";
        }
        return "the media engine says: " + String.join(" | ", plainComplaints(ending.lastLines()));
    }

    /// Error lines without the engine's memory addresses, the same line once.
    private static List<String> plainComplaints(List<String> lines) {
        return lines.stream()
                .map(line -> line.replaceAll("\\[(\\S+) @ 0x[0-9a-f]+] ?", "$1: "))
                .filter(line -> !line.isBlank())
                .distinct()
                .limit(8)
                .toList();
    }

    private static Inspection unreadable(ClipSource source, String why) {
        return new Inspection.Unreadable(new Problem(
                "Cannot read " + source.head(), why, UNTOUCHED, "Copy it again from the card, or leave it out."));
    }
}
