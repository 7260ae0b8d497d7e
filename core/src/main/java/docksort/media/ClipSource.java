package docksort.media;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;

/// The file or files that are one clip.
public sealed interface ClipSource {

    /// The file, or the first file of a sequence. It stands for the clip wherever one path is needed.
    Path head();

    /// All files, in order.
    List<Path> files();

    /// The clip's name: the file name without its ending, or the sequence's stem with its range.
    String name();

    /// The same clip with its files below another folder.
    ClipSource movedTo(Path folder);

    /// One media file.
    record SingleFile(Path head) implements ClipSource {
        @Override
        public List<Path> files() {
            return List.of(head);
        }

        @Override
        public String name() {
            String file = String.valueOf(head.getFileName());
            int dot = file.lastIndexOf('.');
            return dot > 0 ? file.substring(0, dot) : file;
        }

        @Override
        public ClipSource movedTo(Path folder) {
            return new SingleFile(folder.resolve(String.valueOf(head.getFileName())));
        }
    }

    /// One recording that the recorder cut into several files, in order.
    ///
    /// @param seconds how long the picture of each part is; compressed sound may go on after it. Empty
    ///     where that is not known
    record Spanned(List<Path> parts, List<Rational> seconds) implements ClipSource {
        public Spanned(List<Path> parts) {
            this(parts, List.of());
        }

        public Spanned {
            parts = List.copyOf(parts);
            seconds = List.copyOf(seconds);
            if (!seconds.isEmpty() && seconds.size() != parts.size()) {
                throw new IllegalArgumentException(seconds.size() + " lengths of " + parts.size() + " parts");
            }
            if (parts.size() < 2) {
                throw new IllegalArgumentException("a spanned recording has several files: " + parts);
            }
        }

        @Override
        public Path head() {
            return parts.getFirst();
        }

        @Override
        public List<Path> files() {
            return parts;
        }

        @Override
        public String name() {
            return new SingleFile(head()).name() + " (" + parts.size() + " parts)";
        }

        @Override
        public ClipSource movedTo(Path folder) {
            return new Spanned(
                    parts.stream()
                            .map(part -> folder.resolve(String.valueOf(part.getFileName())))
                            .toList(),
                    seconds);
        }
    }

    /// Numbered stills `prefix` + digits + `suffix` in one folder.
    ///
    /// @param digits width of the number, zero-padded
    /// @param first first number, inclusive
    /// @param last last number, inclusive
    /// @param missing numbers between them that have no file, ascending
    record NumberedStills(
            Path folder, String prefix, int digits, String suffix, int first, int last, List<Integer> missing)
            implements ClipSource {
        public NumberedStills {
            missing = List.copyOf(missing);
            if (last < first || digits < 1) {
                throw new IllegalArgumentException("not a range of numbers: " + first + " to " + last);
            }
        }

        public Path file(int number) {
            return folder.resolve(prefix + digits(number) + suffix);
        }

        /// A minus sign stands before the digits, and is none of them.
        private String digits(int number) {
            String plain = String.format(Locale.ROOT, "%0" + digits + "d", Math.abs((long) number));
            return number < 0 ? "-" + plain : plain;
        }

        @Override
        public Path head() {
            return file(first);
        }

        @Override
        public List<Path> files() {
            var files = new ArrayList<Path>(last - first + 1);
            var gaps = new HashSet<>(missing);
            for (int number = first; number <= last; number++) {
                if (!gaps.contains(number)) {
                    files.add(file(number));
                }
            }
            return files;
        }

        /// Frames from the first number to the last, the missing ones among them.
        public int count() {
            return last - first + 1;
        }

        /// "1013–1016, 1020", empty where none is missing.
        public String missingLabel() {
            var words = new ArrayList<String>();
            for (int i = 0; i < missing.size(); i++) {
                int from = i;
                while (i + 1 < missing.size() && missing.get(i + 1) == missing.get(i) + 1) {
                    i++;
                }
                words.add(from == i ? missing.get(i).toString() : missing.get(from) + "–" + missing.get(i));
            }
            return words.size() <= 6
                    ? String.join(", ", words)
                    : String.join(", ", words.subList(0, 6)) + " and " + (words.size() - 6) + " more stretches";
        }

        @Override
        public String name() {
            int end = prefix.length();
            while (end > 0 && "._ -".indexOf(prefix.charAt(end - 1)) >= 0) {
                end--;
            }
            String stem = prefix.substring(0, end);
            String behind = suffix.substring(0, Math.max(0, suffix.lastIndexOf('.')));
            return (stem.isEmpty() ? "stills" : stem) + " [" + digits(first) + "-" + digits(last) + "]" + behind;
        }

        @Override
        public ClipSource movedTo(Path other) {
            return new NumberedStills(other, prefix, digits, suffix, first, last, missing);
        }
    }
}
