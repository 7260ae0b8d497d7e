package docksort.files;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import docksort.files.TreeCopy.Fate;
import docksort.files.TreeCopy.Outcome;
import docksort.files.TreeCopy.Source;
import docksort.problem.CoreException.InputRefused;
import java.io.FilterInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.RandomAccessFile;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.security.MessageDigest;
import java.time.Instant;
import java.util.Comparator;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import java.util.concurrent.atomic.AtomicLong;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.ValueSource;

/// A card is copied, and cards that fail in the ways that cards do. What is on the disks is held against
/// the card by another digest.
class TreeCopyTest {
    @TempDir
    Path folder = Path.of("");

    private Path card = Path.of("");
    private Path one = Path.of("");
    private Path two = Path.of("");
    private final Random random = new Random(20_261_128);

    @BeforeEach
    void fill() throws Exception {
        card = folder.resolve("card");
        one = folder.resolve("raid/card");
        two = folder.resolve("shuttle/card");
        write("CLIP/A001.mov", 9_000_017); // more than one piece, and no whole number of blocks
        write("CLIP/A002.mov", 4 << 20);
        write("SUB/A001_P.mov", 70_001);
        write("empty.txt", 0);
        Files.createDirectories(card.resolve("INDEX/nothing in it"));
    }

    private void write(String name, int bytes) throws IOException {
        byte[] content = new byte[bytes];
        random.nextBytes(content);
        Path file = card.resolve(name);
        Files.createDirectories(file.getParent());
        Files.write(file, content);
        Files.setLastModifiedTime(file, FileTime.from(Instant.parse("2026-03-01T02:00:00Z")));
    }

    private Outcome copy(Source source) {
        return TreeCopy.copy(card, List.of(one, two), source, _ -> {}, () -> false);
    }

    private static Map<String, String> digests(Path tree) throws Exception {
        var found = new TreeMap<String, String>();
        try (var files = Files.walk(tree)) {
            for (Path file : files.filter(Files::isRegularFile).toList()) {
                byte[] sum = MessageDigest.getInstance("SHA-256").digest(Files.readAllBytes(file));
                found.put(
                        tree.relativize(file) + " " + Files.getLastModifiedTime(file),
                        HexFormat.of().formatHex(sum));
            }
        }
        return found;
    }

    @Test
    void aGoodCardIsReadOnceAndIsAtBothPlaces() throws Exception {
        var read = new AtomicLong();
        Outcome outcome = TreeCopy.copy(card, List.of(one, two), Source.DISK, read::addAndGet, () -> false);
        assertThat(outcome.isSafeToClear()).isTrue();
        assertThat(outcome.count(Fate.COPIED)).isEqualTo(8);
        assertThat(digests(one)).isEqualTo(digests(card));
        assertThat(digests(two)).isEqualTo(digests(card));
        assertThat(read.get()).isEqualTo(9_000_017 + (4 << 20) + 70_001);
        assertThat(one.resolve("INDEX/nothing in it")).isDirectory();
        assertThat(outcome.lines())
                .allSatisfy(line -> assertThat(line.sum())
                        .isEqualTo(Checksum.XXH64
                                .of(card.resolve(line.path()), () -> false)
                                .orElseThrow()));
    }

    @Test
    void aFileThatCannotBeReadKeepsTheCardAndTheRestGoesOn() throws Exception {
        Outcome outcome = copy(file -> {
            InputStream in = Files.newInputStream(file);
            return file.endsWith("A001.mov") ? failing(in, 5_000_000) : in;
        });
        assertThat(outcome.isSafeToClear()).isFalse();
        assertThat(outcome.lines())
                .filteredOn(line -> line.fate() == Fate.FAILED)
                .hasSize(2)
                .allSatisfy(line -> {
                    assertThat(line.path()).isEqualTo("CLIP/A001.mov");
                    assertThat(line.why()).contains("cannot be read from the source", "the card gave up");
                });
        assertThat(outcome.count(Fate.COPIED)).isEqualTo(6);
        assertThat(one.resolve("CLIP")).isDirectoryNotContaining("glob:**A001*");
        assertNothingHalfMade();
    }

    /// Each of the cards that ship, told from each other by what is said of them.
    @ParameterizedTest
    @EnumSource
    void aSimulatedCardIsNeverSafeToClear(SimulatedCard kind) throws Exception {
        Map<String, String> before = digests(card);
        Outcome outcome = copy(kind.source());
        assertThat(outcome.isSafeToClear()).isFalse();
        assertThat(outcome.lines())
                .filteredOn(line -> line.fate() == Fate.FAILED)
                .isNotEmpty()
                .allSatisfy(line -> assertThat(line.why())
                        .contains(
                                switch (kind) {
                                    case READ_FAULT -> "the card cannot be read here";
                                    case PULLED_OUT -> "the card was pulled out";
                                    case CHANGED -> "";
                                }));
        assertThat(digests(card)).as("it is only read").isEqualTo(before);
        assertNothingHalfMade();
        assertThat(copy(Source.DISK).isSafeToClear()).as("begun again").isTrue();
        assertThat(SimulatedCard.named(kind.label())).contains(kind);
    }

    private static InputStream failing(InputStream in, int after) {
        return new FilterInputStream(in) {
            private int given;

            @Override
            public int read(byte[] buffer, int from, int length) throws IOException {
                if (given >= after) {
                    throw new IOException("the card gave up");
                }
                int count = super.read(buffer, from, length);
                given += count;
                return count;
            }
        };
    }

    private void assertNothingHalfMade() throws IOException {
        for (Path place : List.of(one, two)) {
            try (var files = Files.walk(place)) {
                assertThat(files.filter(file -> file.getFileName().toString().startsWith(".dock-sort")))
                        .isEmpty();
            }
        }
    }

    @Test
    void aCardThatIsPulledOutIsGoneOnWithWhereItWasBrokenOff() throws Exception {
        Path away = folder.resolve("away");
        Outcome broken = copy(file -> {
            if (file.endsWith("A002.mov")) {
                Files.move(card, away);
                throw new IOException("Input/output error");
            }
            return Files.newInputStream(file);
        });
        assertThat(broken.complete()).isFalse();
        assertThat(broken.isSafeToClear()).isFalse();
        assertThat(broken.changes())
                .singleElement()
                .satisfies(words -> assertThat(words).contains("is away"));
        Files.move(away, card);
        Outcome again = copy(Source.DISK);
        assertThat(again.isSafeToClear()).isTrue();
        assertThat(again.count(Fate.THERE)).isEqualTo(2); // A001 at both places
        assertThat(again.count(Fate.COPIED)).isEqualTo(6);
        assertThat(digests(two)).isEqualTo(digests(card));
    }

    @Test
    void aCardThatChangesMeanwhileIsNotSafe() throws Exception {
        Outcome outcome = copy(file -> {
            if (file.endsWith("A002.mov")) {
                Files.writeString(card.resolve("CLIP/A003.mov"), "just recorded");
            }
            return Files.newInputStream(file);
        });
        assertThat(outcome.complete()).isTrue();
        assertThat(outcome.changes()).containsExactly("CLIP/A003.mov is new");
        assertThat(outcome.isSafeToClear()).isFalse();
    }

    @Test
    void anotherFileOfTheNameStays() throws Exception {
        Files.createDirectories(one.resolve("CLIP"));
        Files.writeString(one.resolve("CLIP/A001.mov"), "somebody else's");
        byte[] same = new byte[4 << 20]; // of the right size, with other content
        Files.write(one.resolve("CLIP/A002.mov"), same);
        Outcome outcome = copy(Source.DISK);
        assertThat(outcome.isSafeToClear()).isFalse();
        assertThat(outcome.count(Fate.OTHER)).isEqualTo(2);
        assertThat(one.resolve("CLIP/A001.mov")).hasContent("somebody else's");
        assertThat(Files.readAllBytes(one.resolve("CLIP/A002.mov"))).isEqualTo(same);
        assertThat(digests(two)).isEqualTo(digests(card));
    }

    @Test
    void aPlaceThatCannotBeWrittenToKeepsNothingFromTheOther() throws Exception {
        Files.createDirectories(one);
        Files.writeString(one.resolve("CLIP"), "a file where a folder should be");
        Outcome outcome = copy(Source.DISK);
        assertThat(outcome.isSafeToClear()).isFalse();
        assertThat(outcome.lines())
                .filteredOn(line -> line.fate() == Fate.FAILED)
                .allSatisfy(line -> assertThat(line.place()).isEqualTo(one))
                .hasSize(2);
        assertThat(digests(two)).isEqualTo(digests(card));
    }

    @Test
    void aLinkIsToldAndNotFollowed() throws Exception {
        Path secret = Files.writeString(folder.resolve("secret"), "not of the card", StandardCharsets.UTF_8);
        Files.createSymbolicLink(card.resolve("link.mov"), secret);
        Outcome outcome = copy(Source.DISK);
        assertThat(outcome.isSafeToClear()).isFalse();
        assertThat(one.resolve("link.mov")).doesNotExist();
        assertThat(outcome.lines())
                .filteredOn(line -> line.path().equals("link.mov"))
                .allSatisfy(line -> assertThat(line.why()).contains("it is a link"));
    }

    @Test
    void whatAKilledProgramLeftHalfMadeIsClearedAwayAndTwoAtATimeAreRefused() throws Exception {
        Files.createDirectories(one);
        Path left = PartialFile.besides(one.resolve("A001.mov"), "tree").working();
        Files.writeString(left, "half");
        try (var lock = ExclusiveLock.tryOn(one.resolve(".dock-sort-tree.lock")).orElseThrow()) {
            assertThat(lock).isNotNull();
            assertThatThrownBy(() -> copy(Source.DISK))
                    .isInstanceOf(InputRefused.class)
                    .hasMessageContaining("another program is copying there");
            assertThat(one.resolve(".dock-sort-tree.lock"))
                    .as("it is the other program's")
                    .exists();
        }
        assertThat(copy(Source.DISK).isSafeToClear()).isTrue();
        assertThat(left).doesNotExist();
        assertNothingHalfMade();
    }

    /// Sixty faults at random moments, each of the kinds a card or a way to a disk has: whatever happens, no
    /// card is called safe that is not at both places, and going on ends with equal trees. A bit that is
    /// given wrong by the card is found by its second reading, one that is written wrong by reading back.
    @ParameterizedTest
    @EnumSource
    void faultsAtAnyMomentAreFoundAndGoneOnAfter(Fault fault) throws Exception {
        Map<String, String> truth = digests(card);
        for (int round = 0; round < 12; round++) {
            var drill = new FaultySource(fault, card, one, round);
            Outcome outcome = TreeCopy.copy(card, List.of(one, two), drill, true, _ -> {}, drill::isKilled);
            drill.mend();
            assertThat(drill.hasHappened()).isTrue();
            assertThat(outcome.isSafeToClear()).as("%s, round %d", fault, round).isFalse();
            Outcome again = TreeCopy.copy(card, List.of(one, two), Source.DISK, true, _ -> {}, () -> false);
            if (fault == Fault.READ_BIT) {
                // The wrong file has its name by now: it stays, and is told as another one until somebody removes it.
                assertThat(again.isSafeToClear()).isFalse();
                for (TreeCopy.Line line : again.lines()) {
                    if (line.fate() == Fate.OTHER) {
                        Files.delete(line.place().resolve(line.path()));
                    }
                }
                again = copy(Source.DISK);
            }
            assertThat(again.isSafeToClear())
                    .as("%s, round %d, gone on", fault, round)
                    .isTrue();
            assertThat(digests(one)).isEqualTo(truth);
            assertThat(digests(two)).isEqualTo(truth);
            assertNothingHalfMade();
            sweep(one);
            sweep(two);
        }
    }

    private static void sweep(Path tree) throws IOException {
        try (var all = Files.walk(tree)) {
            for (Path path : all.sorted(Comparator.reverseOrder()).toList()) {
                Files.delete(path);
            }
        }
    }

    enum Fault {
        /// The card gives an error.
        READ_ERROR,
        /// The card is away.
        PULLED_OUT,
        /// Whoever copies ends it.
        KILLED,
        /// The card gives a wrong bit, once.
        READ_BIT,
        /// A wrong bit comes to the disk.
        WRITTEN_BIT
    }

    /// A card, or a way to a disk, that fails once, at a moment and a place chosen by chance.
    private static final class FaultySource implements Source {
        private final Fault fault;
        private final Path card;
        private final Path away;
        private final Path place;
        private final Random random;
        private final int file;
        private int opened;
        private boolean happened;
        private boolean killed;

        FaultySource(Fault fault, Path card, Path place, int seed) {
            this.fault = fault;
            this.card = card;
            this.away = card.resolveSibling("away");
            this.place = place;
            this.random = new Random(31L * seed + fault.name().hashCode());
            this.file = random.nextInt(3); // one of those with anything in them
        }

        boolean hasHappened() {
            return happened;
        }

        boolean isKilled() {
            return killed;
        }

        void mend() throws IOException {
            if (Files.exists(away)) {
                Files.move(away, card);
            }
        }

        @Override
        public InputStream open(Path path) throws IOException {
            InputStream in = Files.newInputStream(path);
            if (happened || opened++ != file) {
                return in;
            }
            long moment = (long) (random.nextDouble() * Files.size(path));
            return new FilterInputStream(in) {
                private long given;

                @Override
                public int read(byte[] buffer, int from, int length) throws IOException {
                    int count = super.read(buffer, from, length);
                    boolean now = !happened && (given + count > moment || count < 0);
                    if (now && fault != Fault.WRITTEN_BIT) {
                        happened = true;
                        strike(buffer, count < 0 ? 0 : (int) (moment - given));
                    } else if (count < 0 && !happened) {
                        happened = true;
                        flipOnDisk(Files.size(path));
                    }
                    given += Math.max(0, count);
                    return count;
                }
            };
        }

        private void strike(byte[] buffer, int at) throws IOException {
            switch (fault) {
                case READ_ERROR -> throw new IOException("the card gave up");
                case PULLED_OUT -> {
                    Files.move(card, away);
                    throw new IOException("Input/output error");
                }
                case KILLED -> killed = true;
                case READ_BIT -> buffer[at] ^= (byte) (1 << random.nextInt(8));
                case WRITTEN_BIT -> throw new AssertionError("that is done on the disk");
            }
        }

        /// All of the file is written by now, and has no name yet.
        private void flipOnDisk(long bytes) throws IOException {
            try (var all = Files.walk(place)) {
                Path partial = all.filter(Files::isRegularFile)
                        .filter(path -> path.getFileName().toString().startsWith(".dock-sort")
                                && path.toFile().length() == bytes)
                        .findFirst()
                        .orElseThrow();
                try (var disk = new RandomAccessFile(partial.toFile(), "rw")) {
                    long at = (long) (random.nextDouble() * disk.length());
                    disk.seek(at);
                    int value = disk.read();
                    disk.seek(at);
                    disk.write(value ^ 1 << random.nextInt(8));
                }
            }
        }
    }

    @ParameterizedTest
    @ValueSource(ints = {0, 1, 4_095, 4_096, 4_097, (4 << 20) - 1, 4 << 20, (4 << 20) + 1, 9_000_017})
    void whatIsReadPastMemoryIsTheWholeFile(int bytes) throws Exception {
        write("CLIP/sized.mov", bytes);
        Path file = card.resolve("CLIP/sized.mov");
        assertThat(DiskStream.sum(file))
                .isEqualTo(Checksum.XXH64.of(file, () -> false).orElseThrow());
    }
}
