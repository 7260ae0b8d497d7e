package docksort.files;

import docksort.files.TreeListing.Entry;
import docksort.problem.Causes;
import docksort.problem.CoreException.InputRefused;
import docksort.problem.CoreException.StorageFailed;
import docksort.problem.Problem;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Comparator;
import java.util.Deque;
import java.util.HashMap;
import java.util.HexFormat;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CompletionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.function.BooleanSupplier;
import java.util.function.LongConsumer;
import java.util.stream.Stream;
import net.jpountz.xxhash.StreamingXXHash64;
import net.jpountz.xxhash.XXHashFactory;

/// Copies a folder tree to one or several places. Every file is read once and written to all of them;
/// what was written is read back, past the system's memory where the system can, and held against what
/// was read before it gets its name. No file is written over: one that is there already is read instead,
/// so that copying goes on where it was broken off. Links are not followed, but told.
public final class TreeCopy {
    private static final int BUFFER = 1 << 20;
    private static final int READING_BACK = 3; // files at a time
    private static final String OWNER = "tree";
    private static final String LOCK = ".dock-sort-tree.lock";

    /// What became of a file at a place.
    public enum Fate {
        COPIED("copied"),
        /// It was there before, and is the same.
        THERE("was there"),
        /// Another file of its name was there before, and stays.
        OTHER("another file is there"),
        FAILED("failed");

        private final String label;

        Fate(String label) {
            this.label = label;
        }

        public String label() {
            return label;
        }

        boolean isGood() {
            return this == COPIED || this == THERE;
        }
    }

    /// @param path below the source, with slashes
    /// @param place folder that the tree was copied to
    /// @param sum XXH64 of what the source gave, empty where it could not be read
    /// @param why what went wrong; empty where nothing did
    public record Line(String path, Path place, Fate fate, String sum, String why) {}

    /// @param lines one for each file and place
    /// @param changes what is otherwise in the source than when copying began
    /// @param complete whether it was carried out to its end
    public record Outcome(List<Line> lines, List<String> changes, boolean complete) {
        public Outcome {
            lines = List.copyOf(lines);
            changes = List.copyOf(changes);
        }

        /// Whether every file of the source was read back at every place, and the source is as it was.
        public boolean isSafeToClear() {
            return complete
                    && changes.isEmpty()
                    && !lines.isEmpty()
                    && lines.stream().allMatch(line -> line.fate.isGood());
        }

        public long count(Fate fate) {
            return lines.stream().filter(line -> line.fate == fate).count();
        }
    }

    /// Opens files of the source.
    @FunctionalInterface
    public interface Source {
        Source DISK = Files::newInputStream;

        InputStream open(Path file) throws IOException;
    }

    private final Path from;
    private final List<Path> places;
    private final Source source;
    private final LongConsumer read;
    private final BooleanSupplier cancelled;
    private final List<Line> lines = Collections.synchronizedList(new ArrayList<>());
    private final Deque<CompletableFuture<Void>> settling = new ArrayDeque<>();

    private final boolean twice;

    private TreeCopy(
            Path from, List<Path> places, Source source, boolean twice, LongConsumer read, BooleanSupplier cancelled) {
        this.from = from;
        this.places = places;
        this.source = source;
        this.twice = twice;
        this.read = read;
        this.cancelled = cancelled;
    }

    /// Bytes of all files of a tree.
    ///
    /// @throws InputRefused when it cannot be listed
    public static long bytes(Path from) {
        return TreeListing.of(from).values().stream().mapToLong(Entry::bytes).sum();
    }

    /// @param places folders that will hold what `from` holds
    /// @param read hears how many bytes of the source were read, piece by piece
    /// @throws InputRefused when the source cannot be listed
    public static Outcome copy(
            Path from, List<Path> places, Source source, LongConsumer read, BooleanSupplier cancelled) {
        return copy(from, places, source, false, read, cancelled);
    }

    /// @param twice whether the source is read a second time at the end: what it, its reader or its cable
    ///     gave wrong the first time is found by nothing else
    public static Outcome copy(
            Path from, List<Path> places, Source source, boolean twice, LongConsumer read, BooleanSupplier cancelled) {
        return new TreeCopy(from, List.copyOf(places), source, twice, read, cancelled).carryOut();
    }

    private Outcome carryOut() {
        Map<Path, ExclusiveLock> locks = new LinkedHashMap<>();
        try {
            for (Path place : places) {
                Path lock = Documents.ensureFolder(place).resolve(LOCK);
                locks.put(
                        lock,
                        ExclusiveLock.tryOn(lock)
                                .orElseThrow(() -> new InputRefused(new Problem(
                                        "Nothing was copied to " + place,
                                        "another program is copying there",
                                        "Everything is as it was.",
                                        "Wait for it, or choose another folder."))));
                PartialFile.sweep(place, OWNER);
            }
            return copyAll();
        } finally {
            locks.forEach((file, lock) -> {
                file.toFile().delete(); // only while it is ours
                lock.close();
            });
        }
    }

    /// While some files are read back the next one is copied: what waits for the disk waits together.
    private Outcome copyAll() {
        Map<String, Entry> before = TreeListing.of(from);
        makeFolders();
        ExecutorService back = Executors.newFixedThreadPool(
                READING_BACK,
                Thread.ofPlatform().daemon().name("reading-back-", 0).factory());
        try {
            Outcome outcome = copyAll(before, back);
            return new Outcome(inOrder(outcome.lines, before), outcome.changes, outcome.complete);
        } finally {
            back.shutdown();
        }
    }

    private Outcome copyAll(Map<String, Entry> before, ExecutorService back) {
        for (Entry entry : before.values()) {
            if (cancelled.getAsBoolean() || !Files.isDirectory(from)) {
                settled(0);
                return new Outcome(
                        lines,
                        Files.isDirectory(from) ? List.of() : List.of(from + " is away; what was copied is whole"),
                        false);
            }
            if (!copy(entry, back)) {
                settled(0);
                return new Outcome(lines, List.of(), false);
            }
        }
        settled(0);
        var changes = new ArrayList<>(TreeListing.changes(from, before));
        if (twice) {
            Map<String, String> sums = new HashMap<>();
            lines.stream().filter(line -> line.fate.isGood()).forEach(line -> sums.put(line.path, line.sum));
            for (Entry entry : before.values()) {
                Optional<String> why = secondReading(entry, Optional.ofNullable(sums.get(entry.path())));
                if (cancelled.getAsBoolean()) {
                    return new Outcome(lines, changes, false);
                }
                why.ifPresent(changes::add);
            }
        }
        return new Outcome(lines, changes, true);
    }

    /// Waits until no more than so many files are being read back.
    private void settled(int most) {
        try {
            while (settling.size() > most) {
                settling.removeFirst().join();
            }
        } catch (CompletionException e) {
            if (e.getCause() instanceof RuntimeException fault) {
                throw fault;
            }
            throw e;
        }
    }

    /// As the source was listed, file by file and place by place.
    private List<Line> inOrder(List<Line> told, Map<String, Entry> listed) {
        List<String> paths = List.copyOf(listed.keySet());
        Map<String, Integer> order = new HashMap<>();
        paths.forEach(path -> order.put(path, order.size()));
        return told.stream()
                .sorted(Comparator.comparingInt((Line line) -> order.getOrDefault(line.path, paths.size()))
                        .thenComparingInt(line -> places.indexOf(line.place)))
                .toList();
    }

    /// @return what is otherwise than at the first; empty where nothing is
    private Optional<String> secondReading(Entry entry, Optional<String> first) {
        if (first.isEmpty()) {
            return Optional.empty(); // it failed, and is told as that
        }
        try {
            return pour(entry, List.of())
                    .filter(sum -> !sum.equals(first.get()))
                    .map(_ -> entry.path() + " reads otherwise the second time: copy it again from another reader");
        } catch (IOException e) {
            return Optional.of(entry.path() + " cannot be read a second time: " + Causes.inWords(e));
        }
    }

    /// Folders, those with nothing in them too: some programs know a card by them. One that cannot be
    /// made is told by the files that should have come into it.
    private void makeFolders() {
        try (Stream<Path> all = Files.walk(from)) {
            for (Path folder : all.filter(path -> Files.isDirectory(path, LinkOption.NOFOLLOW_LINKS))
                    .toList()) {
                places.forEach(place -> place.resolve(from.relativize(folder).toString())
                        .toFile()
                        .mkdirs());
            }
        } catch (IOException | UncheckedIOException e) {
            System.getLogger(TreeCopy.class.getName()).log(System.Logger.Level.DEBUG, "a folder was not made", e);
        }
    }

    /// One file at one place, being written or already there.
    private static final class Target {
        private final Path place;
        private final Path file;
        private Optional<PartialFile> partial = Optional.empty();
        private Optional<OutputStream> out = Optional.empty();
        private String why = "";

        Target(Path place, Path file) {
            this.place = place;
            this.file = file;
        }

        boolean isThere() {
            return partial.isEmpty() && why.isEmpty();
        }

        void begin() {
            try {
                Files.createDirectories(Objects.requireNonNull(file.getParent()));
                PartialFile begun = PartialFile.besides(file, OWNER);
                partial = Optional.of(begun);
                out = Optional.of(Files.newOutputStream(begun.working()));
            } catch (IOException e) {
                fail(Causes.inWords(e));
            } catch (StorageFailed e) {
                fail(e.problem().why());
            }
        }

        void write(byte[] buffer, int length) {
            if (out.isPresent()) {
                try {
                    out.get().write(buffer, 0, length);
                } catch (IOException e) {
                    fail(Causes.inWords(e));
                }
            }
        }

        /// The other places go on.
        void fail(String reason) {
            why = reason;
            close();
        }

        void endWriting() {
            if (out.isPresent()) {
                try {
                    out.get().close();
                    out = Optional.empty();
                } catch (IOException e) {
                    fail(Causes.inWords(e));
                }
            }
        }

        void close() {
            out.ifPresent(stream -> {
                try {
                    stream.close();
                } catch (IOException e) {
                    // It goes away with what was written.
                }
            });
            out = Optional.empty();
            partial.ifPresent(PartialFile::close);
            partial = Optional.empty();
        }
    }

    /// @return false when it was cancelled
    private boolean copy(Entry entry, ExecutorService back) {
        var targets = new ArrayList<Target>();
        for (Path place : places) {
            targets.add(new Target(place, place.resolve(entry.path())));
        }
        if (entry.link()) {
            targets.forEach(target -> tell(entry, target, Fate.FAILED, "", "it is a link, and links are not followed"));
            return true;
        }
        try {
            targets.stream()
                    .filter(target -> !Files.exists(target.file, LinkOption.NOFOLLOW_LINKS))
                    .forEach(Target::begin);
            Optional<String> sum = pour(entry, targets);
            settled(READING_BACK - 1);
            if (sum.isEmpty()) {
                targets.forEach(Target::close);
                return false;
            }
            settling.addLast(CompletableFuture.runAsync(() -> settle(entry, targets, sum.get()), back));
        } catch (IOException e) {
            targets.forEach(target ->
                    tell(entry, target, Fate.FAILED, "", "it cannot be read from the source: " + Causes.inWords(e)));
            targets.forEach(Target::close);
        } catch (RuntimeException | Error e) {
            targets.forEach(Target::close);
            throw e;
        }
        return true;
    }

    private void settle(Entry entry, List<Target> targets, String sum) {
        try {
            targets.forEach(target -> settle(entry, target, sum));
        } finally {
            targets.forEach(Target::close);
        }
    }

    /// @return the checksum of what the source gave; empty when it was cancelled
    private Optional<String> pour(Entry entry, List<Target> targets) throws IOException {
        try (InputStream in = source.open(from.resolve(entry.path()));
                StreamingXXHash64 hash = XXHashFactory.fastestJavaInstance().newStreamingHash64(0)) {
            byte[] buffer = new byte[BUFFER];
            long all = 0;
            for (int count = in.read(buffer); count >= 0; count = in.read(buffer)) {
                if (cancelled.getAsBoolean()) {
                    return Optional.empty();
                }
                hash.update(buffer, 0, count);
                for (Target target : targets) {
                    target.write(buffer, count);
                }
                all += count;
                read.accept(count);
            }
            if (all != entry.bytes()) {
                throw new IOException("it gave " + all + " bytes, its listing says " + entry.bytes());
            }
            return Optional.of(HexFormat.of().toHexDigits(hash.getValue()));
        }
    }

    /// Reads a file back, and gives it its name when it is what the source gave.
    private void settle(Entry entry, Target target, String sum) {
        boolean there = target.isThere();
        target.endWriting();
        if (!target.why.isEmpty()) {
            tell(entry, target, Fate.FAILED, sum, target.why);
            return;
        }
        try {
            Path written = target.partial.map(PartialFile::working).orElse(target.file);
            if (there && (!Files.isRegularFile(written) || Files.size(written) != entry.bytes())) {
                tell(entry, target, Fate.OTHER, sum, "a file of this name and of another size is there; it stays");
                return;
            }
            boolean same = sum.equals(DiskStream.sum(written));
            if (there) {
                tell(
                        entry,
                        target,
                        same ? Fate.THERE : Fate.OTHER,
                        sum,
                        same ? "" : "a file of this name with other content is there; it stays");
            } else if (same) {
                Files.setLastModifiedTime(written, entry.modified());
                PartialFile partial = target.partial.orElseThrow();
                partial.publish(_ -> false);
                boolean named = partial.target().equals(target.file.toAbsolutePath());
                tell(
                        entry,
                        target,
                        named ? Fate.COPIED : Fate.OTHER,
                        sum,
                        named
                                ? ""
                                : "a file of this name came meanwhile and stays; this one lies beside it as "
                                        + partial.target().getFileName());
            } else {
                tell(entry, target, Fate.FAILED, sum, "what was written does not read back as it was");
            }
        } catch (IOException e) {
            tell(entry, target, Fate.FAILED, sum, Causes.inWords(e));
        } catch (StorageFailed e) {
            tell(entry, target, Fate.FAILED, sum, e.problem().why());
        }
    }

    private void tell(Entry entry, Target target, Fate fate, String sum, String why) {
        lines.add(new Line(entry.path(), target.place, fate, sum, why));
    }
}
