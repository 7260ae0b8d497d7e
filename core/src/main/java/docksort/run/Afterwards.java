package docksort.run;

import docksort.engine.LastAct;
import java.io.File;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Predicate;
import java.util.stream.Stream;

/// What a machine does when a run has come to its end.
///
/// @param line a program and its arguments as a person wrote them, blank for other kinds
public record Afterwards(Kind kind, String line) {
    public static final Afterwards NOTHING = new Afterwards(Kind.NOTHING, "");

    private static final int LONGEST = 2_000;

    public enum Kind {
        NOTHING("nothing"),
        SLEEP("this machine goes to sleep"),
        COMMAND("a command");

        private final String label;

        Kind(String label) {
            this.label = label;
        }

        public String label() {
            return label;
        }
    }

    /// As [#text] wrote it; what is none counts as nothing.
    public static Afterwards parse(String text) {
        if (text.equals("sleep")) {
            return new Afterwards(Kind.SLEEP, "");
        }
        return text.startsWith("run ") ? new Afterwards(Kind.COMMAND, text.substring(4)) : NOTHING;
    }

    public String text() {
        return switch (kind) {
            case NOTHING -> "";
            case SLEEP -> "sleep";
            case COMMAND -> "run " + line;
        };
    }

    /// "this machine goes to sleep", "runs rsync -a copies elsewhere"
    public String label() {
        return kind == Kind.COMMAND ? "runs " + line : kind.label();
    }

    /// Why it cannot be done on this machine; empty when it can.
    ///
    /// @param isThere whether a program is there and may be run
    /// @param folders where programs are looked for that are named without one
    public Optional<String> fault(Predicate<Path> isThere, List<Path> folders) {
        return switch (kind) {
            case NOTHING -> Optional.empty();
            case SLEEP ->
                LastAct.sleep(isThere).isPresent()
                        ? Optional.empty()
                        : Optional.of("this system has no program that puts it to sleep");
            case COMMAND -> commandFault(isThere, folders);
        };
    }

    private Optional<String> commandFault(Predicate<Path> isThere, List<Path> folders) {
        List<String> words = words();
        if (words.isEmpty()) {
            return Optional.of(line.isBlank() ? "write a program and its arguments" : "a quotation mark is not closed");
        }
        if (line.length() > LONGEST) {
            return Optional.of("it has more than " + LONGEST + " characters");
        }
        Path program = Path.of(words.getFirst());
        Stream<Path> places =
                program.isAbsolute() ? Stream.of(program) : folders.stream().map(at -> at.resolve(program));
        boolean found = (program.isAbsolute() || program.getNameCount() == 1)
                && places.anyMatch(
                        at -> isThere.test(at) || isThere.test(at.resolveSibling(at.getFileName() + ".exe")));
        return found ? Optional.empty() : Optional.of("there is no program " + words.getFirst());
    }

    /// Where the system looks for programs.
    public static List<Path> searched() {
        String path = Optional.ofNullable(System.getenv("PATH")).orElse("");
        return Stream.of(path.split(File.pathSeparator, -1))
                .filter(folder -> !folder.isBlank())
                .map(Path::of)
                .toList();
    }

    /// The words of the line: parted by spaces, but for what stands in quotation marks. No shell reads it.
    /// Empty where a mark is not closed.
    public List<String> words() {
        var words = new ArrayList<String>();
        var word = new StringBuilder();
        boolean begun = false;
        char mark = 0;
        for (int i = 0; i < line.length(); i++) {
            char each = line.charAt(i);
            if (mark != 0) {
                if (each == mark) {
                    mark = 0;
                } else {
                    word.append(each);
                }
            } else if (each == '"' || each == '\'') {
                mark = each;
                begun = true;
            } else if (Character.isWhitespace(each)) {
                if (begun) {
                    words.add(word.toString());
                    word.setLength(0);
                }
                begun = false;
            } else {
                word.append(each);
                begun = true;
            }
        }
        if (begun) {
            words.add(word.toString());
        }
        return mark == 0 ? List.copyOf(words) : List.of();
    }
}
