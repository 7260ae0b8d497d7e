package docksort.files;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import docksort.problem.CoreException.InputRefused;
import docksort.problem.CoreException.StorageFailed;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Random;
import net.openhft.hashing.LongTupleHashFunction;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class FilesTest {
    @TempDir
    Path folder = Path.of("");

    @Test
    void aFileThatIsNotPublishedLeavesNothing() throws IOException {
        CopyFolder copies = CopyFolder.open(folder.resolve("copies"), List.of(), "mine");
        try (PartialFile partial = copies.begin(List.of("light"), "a.mov")) {
            Files.writeString(partial.working(), "half");
            assertThat(partial.target()).doesNotExist();
            assertThat(partial.working().getParent()).isEqualTo(partial.target().getParent());
        }
        assertThat(folder.resolve("copies/light")).isEmptyDirectory();
    }

    @Test
    void publishingGivesTheWholeFileItsName() throws IOException {
        CopyFolder copies = CopyFolder.open(folder.resolve("copies"), List.of(), "mine");
        try (PartialFile partial = copies.begin(List.of(), "a.mov")) {
            Files.writeString(partial.working(), "whole");
            partial.publish(_ -> false);
        }
        assertThat(folder.resolve("copies/a.mov")).hasContent("whole");
        assertThat(copies.sweepLeftovers()).isEmpty();
    }

    @Test
    void aFileThatAnotherOwnerPublishedMeanwhileStaysAndTheNameGetsANumber() throws IOException {
        CopyFolder mine = CopyFolder.open(folder.resolve("copies"), List.of(), "mine");
        CopyFolder other = CopyFolder.open(folder.resolve("copies"), List.of(), "other");
        try (PartialFile first = mine.begin(List.of(), "a.mov");
                PartialFile second = other.begin(List.of(), "a.mov")) {
            Files.writeString(first.working(), "mine");
            Files.writeString(second.working(), "the other's");
            assertThat(mine.sweepLeftovers()).containsExactly(first.working());
            Files.writeString(first.working(), "mine");
            first.publish(_ -> false);
            second.publish(_ -> false);
            assertThat(second.target()).hasFileName("a_2.mov").hasContent("the other's");
        }
        assertThat(folder.resolve("copies/a.mov")).hasContent("mine");
        try (PartialFile again = mine.begin(List.of(), "a.mov")) {
            Files.writeString(again.working(), "mine anew");
            again.publish(_ -> true);
        }
        assertThat(folder.resolve("copies/a.mov")).hasContent("mine anew");
    }

    @Test
    void sweepsOnlyItsOwnPartialNames() throws IOException {
        CopyFolder copies = CopyFolder.open(folder.resolve("copies"), List.of(), "mine");
        PartialFile left = copies.begin(List.of("x", "y"), "a.mov");
        Files.writeString(left.working(), "half");
        Path foreign = Files.writeString(folder.resolve("copies/x/.other.part"), "keep");
        Path segment = Files.writeString(PartialFile.piece(left.working(), 1), "a segment");
        assertThat(copies.sweepLeftovers()).containsExactlyInAnyOrder(left.working(), segment);
        assertThat(foreign).exists();
        assertThatThrownBy(() -> PartialFile.discard(foreign)).isInstanceOf(IllegalArgumentException.class);
    }

    @Test
    void refusesAFolderInsideAnArrival() throws IOException {
        Path card = Files.createDirectories(folder.resolve("card"));
        assertThatThrownBy(() -> CopyFolder.open(card.resolve("proxies"), List.of(card), "mine"))
                .isInstanceOf(StorageFailed.class)
                .hasMessageContaining("inside the arrival")
                .hasMessageContaining("Nothing was written");
    }

    @ParameterizedTest
    @CsvSource({
        "-rf.mov, _-rf.mov",
        "a/b\\c.mov, a_b_c.mov",
        "..mov, _..mov",
        "con.mov, _con.mov",
        "what?*.mov, what__.mov",
        "Ночь 夜.mov, Ночь 夜.mov"
    })
    void namesAreSafeOnEverySystem(String wanted, String safe) {
        assertThat(CopyFolder.safeName(wanted)).isEqualTo(safe);
        assertThat(CopyFolder.safeName("line\nbreak.mov")).isEqualTo("line_break.mov");
        assertThat(CopyFolder.safeName("x".repeat(400) + ".mov"))
                .hasSizeLessThan(200)
                .endsWith(".mov");
    }

    @Test
    void fingerprintsTellFilesApartByAnyOfThreeWindowsAndBySize() throws IOException {
        byte[] bytes = new byte[1_000_000];
        new Random(3).nextBytes(bytes);
        Path base = Files.write(folder.resolve("base"), bytes);
        var first = Fingerprinter.of(base);
        assertThat(Fingerprinter.of(Files.write(folder.resolve("same"), bytes))).isEqualTo(first);
        for (int at : new int[] {0, 500_000, 999_999}) {
            byte[] changed = bytes.clone();
            changed[at] ^= 1;
            assertThat(Fingerprinter.of(Files.write(folder.resolve("changed" + at), changed)))
                    .as("byte %d", at)
                    .isNotEqualTo(first);
        }
        // The windows as the page on fingerprints has them, hashed by an independent library.
        byte[] windows = new byte[3 * 65_536];
        System.arraycopy(bytes, 0, windows, 0, 65_536);
        System.arraycopy(bytes, bytes.length / 2 - 32_768, windows, 65_536, 65_536);
        System.arraycopy(bytes, bytes.length - 65_536, windows, 131_072, 65_536);
        long[] words = LongTupleHashFunction.xx128().hashBytes(windows);
        assertThat(first.hash()).isEqualTo(String.format(Locale.ROOT, "%016x%016x", words[1], words[0]));
        assertThat(Fingerprinter.of(Files.write(folder.resolve("longer"), new byte[1_000_001])))
                .isNotEqualTo(first);
        assertThat(Fingerprinter.of(Files.write(folder.resolve("empty"), new byte[0]))
                        .bytes())
                .isZero();
    }

    @Test
    void replacingADocumentIsAllOrNothing() throws IOException {
        Path file = folder.resolve("cut.otio");
        Documents.replace(file, "one".getBytes(StandardCharsets.UTF_8));
        Documents.replace(file, "two".getBytes(StandardCharsets.UTF_8));
        assertThat(file).hasContent("two");
        try (var list = Files.list(folder)) {
            assertThat(list).containsExactly(file);
        }
        assertThatThrownBy(() -> Documents.read(folder.resolve("no.otio")))
                .isInstanceOf(InputRefused.class)
                .hasMessageContaining("it is not there");
    }

    @Test
    void aLockIsHeldByOneAtATime() {
        Path file = folder.resolve("run.lock");
        try (ExclusiveLock held = ExclusiveLock.tryOn(file).orElseThrow()) {
            assertThat(held).isNotNull();
            assertThat(ExclusiveLock.tryOn(file)).isEmpty();
        }
        try (ExclusiveLock again = ExclusiveLock.tryOn(file).orElseThrow()) {
            assertThat(again).isNotNull();
        }
    }

    /// Who asks in vain for a lock of his own program does not let go of it: another program is still kept away.
    @Test
    void askingTwiceDoesNotLetGoOfALock() throws Exception {
        Path file = folder.resolve("run.lock");
        try (ExclusiveLock _ = ExclusiveLock.tryOn(file).orElseThrow()) {
            assertThat(ExclusiveLock.tryOn(folder.resolve("../" + folder.getFileName() + "/run.lock")))
                    .isEmpty();
            assertThat(Asking.otherProgram(file)).isEqualTo(Asking.HELD);
        }
        assertThat(Asking.otherProgram(file)).isEqualTo(Asking.FREE);
    }

    /// One that is asked for twice in one program holds until it was let go of twice, against other machines.
    @Test
    void aMachinesLockOutlivesTheFirstWhoLetsGoOfIt() throws Exception {
        Path file = folder.resolve("machine.lock");
        try (MachineLock _ = MachineLock.tryOn(file, "desk").orElseThrow()) {
            try (MachineLock again = MachineLock.tryOn(file, "desk").orElseThrow()) {
                assertThat(again).isNotNull();
            }
            assertThat(MachineLock.tryOn(file, "suite")).isEmpty();
            assertThat(Asking.otherProgram(file, "suite")).isEqualTo(Asking.HELD);
            assertThat(Asking.otherProgram(file, "desk")).isEqualTo(Asking.FREE);
        }
        assertThat(Asking.otherProgram(file, "suite")).isEqualTo(Asking.FREE);
    }

    /// Another program that asks for a lock.
    static final class Asking {
        static final int HELD = 7;
        static final int FREE = 8;

        private Asking() {}

        /// @param machine none for a lock that one program holds alone
        static int otherProgram(Path file, String... machine) throws Exception {
            var line = new ArrayList<>(
                    List.of(ProcessHandle.current().info().command().orElseThrow(), "-cp"));
            line.addAll(List.of(System.getProperty("java.class.path"), Asking.class.getName(), file.toString()));
            line.addAll(List.of(machine));
            return new ProcessBuilder(line).inheritIO().start().waitFor();
        }

        public static void main(String[] args) {
            Path file = Path.of(args[0]);
            boolean free = args.length > 1
                    ? MachineLock.tryOn(file, args[1]).isPresent()
                    : ExclusiveLock.tryOn(file).isPresent();
            System.exit(free ? FREE : HELD);
        }
    }

    /// 50 MB at 10 MB a second are over after five seconds.
    @ParameterizedTest
    @CsvSource({"50000000, 2, 10000000, 3", "50000000, 6, 10000000, 0", "50000000, 0, 0, 0", "1, 0, 1, 1"})
    void slowReadingWaitsUntilItsTimeHasCome(long bytes, long seconds, long most, long wait) {
        assertThat(SlowReading.nanosToWait(bytes, seconds * 1_000_000_000, most))
                .isEqualTo(wait * 1_000_000_000);
    }
}
