package docksort.bench;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/// Stands in front of the media engine, and makes copies wrong in a way that a file names. All else it passes
/// on.
public final class LyingEngine {
    /// The end of a chain of filters whose pictures go to an encoder.
    private static final Pattern TO_ENCODER = Pattern.compile("\\[(p\\d+)]");

    /// A copy among the outputs that it is written to.
    private static final Pattern COPY = Pattern.compile("]'file:([^']+\\.part)'\\|");

    /// What stands before the channel that a mix takes.
    private static final String MIXED = "(\\d\\*|c0=)";

    private LyingEngine() {}

    /// @param args the engine, the file with the fault, and what the engine is asked for
    public static void main(String[] args) throws Exception {
        var line = new ArrayList<>(List.of(args).subList(2, args.length));
        List<String> fault = Files.readAllLines(Path.of(args[1]));
        boolean making = line.contains("-progress") && line.stream().anyMatch(COPY.asPredicate());
        if (making && fault.size() > 1) {
            spoil(line, fault.get(0), fault.get(1));
        }
        line.addFirst(args[0]);
        int ended = new ProcessBuilder(line).inheritIO().start().waitFor();
        if (making && ended == 0 && fault.getFirst().equals("flip")) {
            for (String argument : line) {
                Matcher copy = COPY.matcher(argument);
                if (copy.find()) {
                    flip(Path.of(copy.group(1)), Double.parseDouble(fault.get(1)));
                }
            }
        }
        System.exit(ended);
    }

    private static void spoil(List<String> line, String kind, String how) {
        switch (kind) {
            case "picture" -> line.replaceAll(argument -> through(argument, how));
            case "sound" -> {
                for (int i = line.size() - 1; i > 0; i--) {
                    if (line.get(i).equals("-f") && !line.get(i + 1).equals("rawvideo")) {
                        line.addAll(i, List.of("-filter:a", how, "-c:a", "pcm_s16le"));
                    }
                }
            }
            case "look" -> line.replaceAll(argument -> argument.replaceAll(how, ""));
            case "mix" ->
                line.replaceAll(
                        argument -> argument.contains("pan=") ? argument.replaceAll(MIXED + how, "$1c0") : argument);
            case "input" -> line.set(line.indexOf("-i") + 1, "file:" + how);
            default -> {}
        }
    }

    /// A graph with one more filter at its end, or what is taken from there.
    private static String through(String argument, String filter) {
        Matcher end = TO_ENCODER.matcher(argument);
        if (!end.find()) {
            return argument;
        }
        String wrong = "[q" + end.group(1) + "]";
        return argument.startsWith("[0:") ? argument + ";" + end.group() + filter + wrong : wrong;
    }

    private static void flip(Path file, double at) throws IOException {
        try (FileChannel channel = FileChannel.open(file, StandardOpenOption.READ, StandardOpenOption.WRITE)) {
            var one = ByteBuffer.allocate(1);
            long place = (long) (channel.size() * at);
            channel.read(one, place);
            one.put(0, (byte) (one.get(0) ^ 0x55)).flip();
            channel.write(one, place);
        }
    }
}
