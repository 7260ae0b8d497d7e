package docksort.link;

import docksort.arrival.ArrivalScan;
import docksort.arrival.Clip;
import docksort.engine.Cancellation;
import docksort.media.ClipSource;
import docksort.media.Fingerprint;
import docksort.problem.Causes;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.function.BiConsumer;

/// Searches a folder or a whole volume for originals and copies that are not in their place. A recording
/// is recognised by its size and fingerprint, whatever its name and folder are now; a name alone proves
/// nothing.
///
/// Files are listed once. Only those whose size one of the missing has are opened, and three small
/// windows of each are read, so the cost is about a walk of the tree.
public final class MediaSearch {
    private final Cancellation cancellation;
    private final BiConsumer<Integer, Integer> progress;
    private final Reader reader;

    /// @param progress hears how many files of how many that could be meant were read
    public MediaSearch(Cancellation cancellation, BiConsumer<Integer, Integer> progress, Reader reader) {
        this.cancellation = cancellation;
        this.progress = progress;
        this.reader = reader;
    }

    public MediaSearch(Cancellation cancellation, BiConsumer<Integer, Integer> progress) {
        this(cancellation, progress, (_, _) -> Optional.empty());
    }

    /// How files are read.
    @FunctionalInterface
    public interface Reader {
        /// What of a file's header is the wanted recording's, where its content cannot be read; empty where
        /// that is not enough to take it for the same.
        Optional<String> sameHeader(Wanted wanted, ClipSource source);

        default Fingerprint fingerprint(ClipSource source) throws IOException {
            return ArrivalScan.fingerprint(source);
        }
    }

    /// Something that is looked for.
    ///
    /// @param id the clip's or the copy's
    /// @param source where it was
    public record Wanted(String id, String name, ClipSource source, Fingerprint fingerprint) {
        public static Wanted of(Clip clip) {
            return new Wanted(clip.id().value(), clip.name(), clip.source(), clip.fingerprint());
        }
    }

    /// What became of one that was looked for.
    public sealed interface Result {
        Wanted wanted();

        /// The same recording, in one place.
        record Found(Wanted wanted, ClipSource source, String how) implements Result {}

        /// The same recording in several places that are equally near: a person chooses.
        record Several(Wanted wanted, List<ClipSource> sources) implements Result {
            public Several {
                sources = List.copyOf(sources);
            }
        }

        /// Name, size and header are those of the recording, but its content cannot be read: a person
        /// decides.
        record ByHeader(Wanted wanted, ClipSource source, String how) implements Result {}

        /// Something of its name is there that is another recording.
        record Another(Wanted wanted, Path file, String why) implements Result {}

        record NotThere(Wanted wanted) implements Result {}
    }

    /// @param taken files that are in use already as something else; they are no answer
    /// @return one result for each that is wanted, in their order
    public List<Result> search(Path folder, List<Wanted> wanted, Set<Path> taken) {
        Map<Long, List<Wanted>> bySize = new HashMap<>();
        Map<String, List<Wanted>> byName = new HashMap<>();
        for (Wanted each : wanted) {
            bySize.computeIfAbsent(each.fingerprint.bytes(), _ -> new ArrayList<>())
                    .add(each);
            byName.computeIfAbsent(fileName(each.source.head()), _ -> new ArrayList<>())
                    .add(each);
        }
        var ofSize = new ArrayList<ClipSource>();
        Map<Wanted, Path> namesakes = new HashMap<>();
        for (ArrivalScan.Sized sized : ArrivalScan.sized(folder)) {
            ClipSource source = sized.source();
            if (bySize.containsKey(sized.bytes())) {
                ofSize.add(source);
            }
            for (Wanted each : byName.getOrDefault(fileName(source.head()), List.of())) {
                namesakes.putIfAbsent(each, source.head());
                // A recording of several files is listed file by file; its first one tells where it could be.
                if (each.source instanceof ClipSource.Spanned) {
                    ofSize.add(each.source.movedTo(Objects.requireNonNull(
                            source.head().toAbsolutePath().getParent())));
                }
            }
        }
        Set<Path> unread = new HashSet<>();
        Map<Fingerprint, List<ClipSource>> found = byContent(ofSize, bySize, taken, unread);
        return results(wanted, found, namesakes).stream()
                .map(result -> result instanceof Result.Another another && unread.contains(another.file)
                        ? byHeader(another)
                        : result)
                .toList();
    }

    private Result byHeader(Result.Another another) {
        Wanted wanted = another.wanted;
        String unread = "not all of its content can be read";
        return at(wanted.source, another.file)
                .flatMap(source -> reader.sameHeader(wanted, source)
                        .<Result>map(same -> new Result.ByHeader(wanted, source, same + "; " + unread)))
                .orElseGet(() ->
                        new Result.Another(wanted, another.file, unread + ", and name and size alone prove nothing"));
    }

    private Map<Fingerprint, List<ClipSource>> byContent(
            List<ClipSource> sources, Map<Long, List<Wanted>> bySize, Set<Path> taken, Set<Path> unread) {
        Set<Fingerprint> looked = new HashSet<>();
        bySize.values().forEach(list -> list.forEach(each -> looked.add(each.fingerprint)));
        Map<Fingerprint, List<ClipSource>> found = new HashMap<>();
        int done = 0;
        for (ClipSource source : sources) {
            if (cancellation.isCancelled()) {
                break;
            }
            progress.accept(++done, sources.size());
            if (taken.contains(source.head())) {
                continue;
            }
            try {
                Fingerprint fingerprint = reader.fingerprint(source);
                if (looked.contains(fingerprint)) {
                    found.computeIfAbsent(fingerprint, _ -> new ArrayList<>()).add(source);
                }
            } catch (IOException e) {
                unread.add(source.head());
                System.getLogger(MediaSearch.class.getName())
                        .log(System.Logger.Level.DEBUG, "cannot read " + source.head(), e);
            }
        }
        return found;
    }

    /// Gives every wanted one a place of its own: one recording that is wanted twice has two twins on the
    /// disk, and each takes the one that is nearest to where it was.
    private static List<Result> results(
            List<Wanted> wanted, Map<Fingerprint, List<ClipSource>> found, Map<Wanted, Path> namesakes) {
        Map<Fingerprint, List<Wanted>> twins = new LinkedHashMap<>();
        wanted.forEach(each ->
                twins.computeIfAbsent(each.fingerprint, _ -> new ArrayList<>()).add(each));
        Map<Wanted, Result> results = new HashMap<>();
        twins.forEach((fingerprint, group) -> settle(group, found.getOrDefault(fingerprint, List.of()), namesakes)
                .forEach(result -> results.put(result.wanted(), result)));
        return wanted.stream()
                .map(each -> results.getOrDefault(each, new Result.NotThere(each)))
                .toList();
    }

    private static List<Result> settle(List<Wanted> group, List<ClipSource> places, Map<Wanted, Path> namesakes) {
        var results = new ArrayList<Result>();
        var left = new ArrayList<>(places);
        // Whoever has the clearest place takes it first.
        List<Wanted> order = group.stream()
                .sorted(Comparator.comparingInt((Wanted each) -> -places.stream()
                        .mapToInt(place -> nearness(each, place))
                        .max()
                        .orElse(0)))
                .toList();
        for (Wanted each : order) {
            if (left.isEmpty()) {
                results.add(Optional.ofNullable(namesakes.get(each))
                        .<Result>map(file -> new Result.Another(each, file, difference(each, file)))
                        .orElseGet(() -> new Result.NotThere(each)));
                continue;
            }
            int best =
                    left.stream().mapToInt(place -> nearness(each, place)).max().orElse(0);
            List<ClipSource> nearest =
                    left.stream().filter(place -> nearness(each, place) == best).toList();
            boolean enough = group.size() >= places.size(); // then any is as good: they are the same bytes
            if (nearest.size() > 1 && !enough) {
                results.add(new Result.Several(each, nearest));
                continue;
            }
            ClipSource place = nearest.getFirst();
            left.remove(place);
            results.add(new Result.Found(each, place, how(each, place)));
        }
        return results;
    }

    /// How many names at the end of the path are as they were, from the file's own on.
    private static int nearness(Wanted wanted, ClipSource place) {
        Path before = wanted.source.head();
        Path now = place.head();
        int same = 0;
        while (same < before.getNameCount()
                && same < now.getNameCount()
                && key(before.getName(before.getNameCount() - 1 - same))
                        .equals(key(now.getName(now.getNameCount() - 1 - same)))) {
            same++;
        }
        return same;
    }

    private static String how(Wanted wanted, ClipSource place) {
        boolean named = fileName(wanted.source.head()).equals(fileName(place.head()));
        return named ? "same content, in another folder" : "same content under another name";
    }

    private static String difference(Wanted wanted, Path file) {
        try {
            long bytes = Files.size(file);
            return bytes == wanted.fingerprint.bytes()
                    ? "its content is another, though name and size are the same"
                    : "it has " + bytes + " bytes, not " + wanted.fingerprint.bytes();
        } catch (IOException e) {
            return Causes.inWords(e);
        }
    }

    private static String fileName(Path file) {
        return key(file.getFileName());
    }

    private static String key(@org.jspecify.annotations.Nullable Path name) {
        return String.valueOf(name).toLowerCase(Locale.ROOT);
    }

    /// What follows when one that was looked for was pointed out: everything else is looked for where it
    /// would be if it had moved together with that one.
    ///
    /// @param chosen the file that somebody pointed at
    /// @return the one pointed out first, then the others; those that are not there are left out
    public static List<Result> follow(Wanted one, Path chosen, List<Wanted> others) {
        var results = new ArrayList<Result>();
        Optional<ClipSource> there = at(one, chosen);
        results.add(there.<Result>map(source -> new Result.Found(one, source, "pointed out"))
                .orElseGet(() -> new Result.Another(one, chosen, difference(one, chosen))));
        if (there.isEmpty()) {
            return results;
        }
        Path before = one.source.head().toAbsolutePath();
        Path now = chosen.toAbsolutePath();
        int same = 0;
        while (same < Math.min(before.getNameCount(), now.getNameCount()) - 1
                && before.getName(before.getNameCount() - 1 - same)
                        .equals(now.getName(now.getNameCount() - 1 - same))) {
            same++;
        }
        Path from = up(before, same);
        Path to = up(now, same);
        for (Wanted other : others) {
            Path was = other.source.head();
            if (!was.startsWith(from) || other.equals(one)) {
                continue;
            }
            Path place = to.resolve(from.relativize(was));
            at(other, place)
                    .<Result>map(source -> new Result.Found(other, source, "moved along"))
                    .or(() -> Files.exists(place)
                            ? Optional.of(new Result.Another(other, place, difference(other, place)))
                            : Optional.empty())
                    .ifPresent(results::add);
        }
        return results;
    }

    private static Path up(Path file, int steps) {
        Path up = file;
        for (int i = 0; i < steps; i++) {
            up = Objects.requireNonNull(up.getParent());
        }
        return up;
    }

    /// The wanted recording at a place, if that is the one there.
    private static Optional<ClipSource> at(Wanted wanted, Path head) {
        Optional<ClipSource> there = at(wanted.source, head);
        try {
            return there.isPresent() && ArrivalScan.fingerprint(there.get()).equals(wanted.fingerprint)
                    ? there
                    : Optional.empty();
        } catch (IOException e) {
            return Optional.empty();
        }
    }

    /// A source as it would be with its first file at a place.
    private static Optional<ClipSource> at(ClipSource source, Path head) {
        return Optional.ofNullable(head.toAbsolutePath().getParent())
                .map(folder -> source instanceof ClipSource.SingleFile
                        ? new ClipSource.SingleFile(head)
                        : source.movedTo(folder));
    }
}
