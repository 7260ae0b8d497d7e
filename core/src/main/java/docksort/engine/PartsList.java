package docksort.engine;

import docksort.media.ClipSource;
import docksort.media.FrameRate;
import docksort.problem.CoreException.InputRefused;
import docksort.problem.Problem;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.Base64;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.stream.Collectors;

/// A list of parts for the engine's concatenating demuxer, handed over in the address itself, so that no
/// file is written for it (ffmpeg-formats manual, concat; ffmpeg-protocols manual, data). Each part is
/// opened as one of the formats that single files are opened as: a part that is itself a list is not
/// followed.
final class PartsList {
    static final String DEMUXER = "concat";
    static final String PROTOCOLS = "file,data";
    private static final String SCHEME = "data:text/plain;base64,";

    private PartsList() {}

    static List<String> of(ClipSource.Spanned spanned) {
        return arguments(address(spanned));
    }

    /// Files of one kind, one after another.
    static List<String> ofFiles(List<Path> files) {
        return arguments(addressOf(files));
    }

    /// Each part lasts as long as its picture: the next would begin late where its sound goes on.
    static String address(ClipSource.Spanned spanned) {
        if (spanned.seconds().isEmpty()) {
            return addressOf(spanned.parts());
        }
        var list = new StringBuilder("ffconcat version 1.0\n");
        for (int i = 0; i < spanned.parts().size(); i++) {
            list.append(file(spanned.parts().get(i))).append('\n');
            list.append(String.format(
                    Locale.ROOT, "duration %.6f%n", spanned.seconds().get(i).toDouble()));
        }
        return address(list.toString());
    }

    private static String addressOf(List<Path> files) {
        return address(
                files.stream().map(PartsList::file).collect(Collectors.joining("\n", "ffconcat version 1.0\n", "\n")));
    }

    static boolean isAddress(String text) {
        return text.startsWith(SCHEME);
    }

    /// Numbered stills with gaps: a part for each stretch without one. A stretch lasts until the next
    /// begins, so that frames keep their place and the still before a gap is held.
    static List<String> ofStretches(ClipSource.NumberedStills stills, String pattern, FrameRate rate) {
        var list = new StringBuilder("ffconcat version 1.0\n");
        var gaps = new HashSet<>(stills.missing());
        int number = stills.first();
        while (number <= stills.last()) {
            int from = number;
            while (number <= stills.last() && !gaps.contains(number)) {
                number++;
            }
            while (gaps.contains(number)) {
                number++;
            }
            list.append(file(pattern)).append('\n');
            list.append("option framerate ").append(rate).append('\n');
            list.append("option start_number ").append(from).append('\n');
            list.append("option pattern_type sequence\n");
            list.append(String.format(
                    Locale.ROOT,
                    "duration %.6f%n",
                    rate.secondsOf(number - from).toDouble()));
        }
        return arguments(address(list.toString()));
    }

    private static String file(Path part) {
        return file(part.toAbsolutePath().toString());
    }

    /// @throws InputRefused when the name has a line break, which a list cannot hold
    private static String file(String part) {
        if (isOnSeveralLines(part)) {
            throw new InputRefused(new Problem(
                    "Cannot be read together with its other parts: " + part,
                    "a name has a line break in it",
                    "Nothing was changed.",
                    "Rename the file or folder."));
        }
        return "file '" + quoted(MediaEngine.url(part)) + "'\noption format_whitelist " + Formats.READ;
    }

    /// Whether a name cannot stand in a list.
    static boolean isOnSeveralLines(String name) {
        return name.indexOf('\n') >= 0 || name.indexOf('\r') >= 0;
    }

    private static String quoted(String text) {
        return text.replace("'", "'\\''");
    }

    private static String address(String list) {
        return SCHEME + Base64.getEncoder().encodeToString(list.getBytes(StandardCharsets.UTF_8));
    }

    private static List<String> arguments(String address) {
        return List.of("-protocol_whitelist", PROTOCOLS, "-f", DEMUXER, "-safe", "0", "-i", address);
    }
}
