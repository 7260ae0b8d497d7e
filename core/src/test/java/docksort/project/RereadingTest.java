package docksort.project;

import static org.assertj.core.api.Assertions.assertThat;

import docksort.Clips;
import docksort.WithMedia;
import docksort.arrival.Arrival;
import docksort.arrival.ArrivalId;
import docksort.arrival.Clip;
import docksort.arrival.ScanResult;
import docksort.catalogue.Catalogue;
import docksort.catalogue.CopyState;
import docksort.catalogue.Desk;
import docksort.catalogue.Root;
import docksort.catalogue.WorkingCopy;
import docksort.engine.Cancellation;
import docksort.engine.MediaEngine;
import docksort.files.Checksum;
import docksort.sort.CopyKind;
import docksort.stock.Reread;
import docksort.stock.Reread.Found;
import java.io.RandomAccessFile;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.TreeMap;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/// Copies whose bytes a disk has changed, with their sizes and times as they were.
@WithMedia
class RereadingTest {
    private static final int BYTES = 9_000_000; // three pieces, the last one not whole

    @TempDir
    Path folder = Path.of("");

    private Instant now = Instant.parse("2026-03-01T02:00:00Z");
    private final MediaEngine engine = MediaEngine.locate();
    private Project project;
    private Path copies = Path.of("");

    @BeforeEach
    void stock() throws Exception {
        folder = folder.toRealPath();
        Path home = Files.createDirectories(folder.resolve("project"));
        copies = Files.createDirectories(folder.resolve("copies"));
        var random = new Random(7);
        try (Catalogue catalogue =
                Catalogue.open(home.resolve("catalogue.db"), () -> now, new Desk("desk", "somebody"))) {
            var root = new Root("all", "All", Path.of("/"));
            catalogue.roots().add(root);
            catalogue.roots().add(new Root(Root.COPIES, "Copies", copies));
            var arrival = new Arrival(new ArrivalId("card"), "Card", Path.of("/card"), Instant.EPOCH);
            catalogue.arrivals().begin(arrival, root);
            var made = new ArrayList<WorkingCopy>();
            for (String name : List.of("A", "B", "C")) {
                Clip clip = Clips.named(name).in("card").clip();
                catalogue.clips().keep(List.of(clip), root);
                byte[] bytes = new byte[BYTES];
                random.nextBytes(bytes);
                Path file = Files.write(copies.resolve(name + ".mov"), bytes);
                Files.setLastModifiedTime(file, FileTime.from(now));
                made.add(copy(clip, file, name.equals("C") ? "" : Checksum.XXH64.of(bytes)));
            }
            catalogue
                    .arrivals()
                    .endScan(
                            arrival,
                            root,
                            new ScanResult(List.of(), List.of(), List.of(), Map.of(), List.of(), List.of(), 0, false),
                            Optional.empty(),
                            true);
            catalogue.copyChanges().add(made, "made");
        }
        project = Project.open(home, engine, () -> now);
    }

    @AfterEach
    void close() {
        project.close();
        engine.close();
    }

    private static WorkingCopy copy(Clip clip, Path file, String sum) {
        return new WorkingCopy(
                clip.name(),
                clip.id(),
                CopyKind.LIGHT,
                "recipe",
                Root.COPIES,
                file,
                CopyState.READY,
                "ready",
                clip.fingerprint(),
                Optional.empty(),
                new WorkingCopy.Place(
                        BYTES,
                        file.toFile().lastModified(),
                        960,
                        540,
                        "x",
                        "",
                        clip.name(),
                        false,
                        Optional.empty(),
                        WorkingCopy.Whole.checked(sum)),
                WorkingCopy.Service.USUAL,
                0);
    }

    private Reread read(int days) {
        return project.rereading().read(due(days), 0, (_, _) -> {}, new Cancellation());
    }

    private List<WorkingCopy> due(int days) {
        return project.rereading().due(Duration.ofDays(days));
    }

    private Map<String, CopyState> states() {
        project.stocktaking().refresh();
        var states = new TreeMap<String, CopyState>();
        project.stocktaking()
                .lines()
                .forEach(line -> line.copies().forEach(copy -> states.put(copy.id(), copy.state())));
        return states;
    }

    /// One bit of one byte, and the file's time as it was.
    private void flip(String name, long at) throws Exception {
        Path file = copies.resolve(name + ".mov");
        FileTime time = Files.getLastModifiedTime(file);
        try (var bytes = new RandomAccessFile(file.toFile(), "rw")) {
            bytes.seek(at);
            int was = bytes.read();
            bytes.seek(at);
            bytes.write(was ^ 4);
        }
        Files.setLastModifiedTime(file, time);
    }

    @Test
    void aFlippedBitIsFoundAndStaysFoundUntilTheCopyIsMadeAnew() throws Exception {
        flip("B", BYTES - 3);
        assertThat(states()).as("a look at the disk sees nothing").doesNotContainValue(CopyState.SUSPECT);
        Reread read = read(0);
        assertThat(read.lines())
                .extracting(line -> line.copy().id() + " " + line.found())
                .containsExactlyInAnyOrder("A SAME", "B DAMAGED", "C FIRST");
        assertThat(read.inWords())
                .isEqualTo("1 of 3 copies are as they were checked, 1 read for the first time, 1 damaged");
        assertThat(states()).containsEntry("A", CopyState.READY).containsEntry("B", CopyState.SUSPECT);
        assertThat(due(0))
                .as("what is damaged is known")
                .extracting(WorkingCopy::id)
                .doesNotContain("B");

        flip("C", 0); // has a checksum since it was read
        now = now.plus(Duration.ofDays(1));
        assertThat(read(0).needingALook())
                .extracting(line -> line.copy().id() + " " + line.found())
                .containsExactly("C DAMAGED");
        flip("B", BYTES - 3); // it has its bytes again, but nobody read them
        assertThat(states()).containsEntry("B", CopyState.SUSPECT).containsEntry("C", CopyState.SUSPECT);
        assertThat(project.activity(1).getFirst().what()).startsWith("Read again: 1 of 2 copies");
    }

    @Test
    void whoIsStoppedGoesOnWhereHeWas() {
        now = now.plus(Duration.ofDays(40));
        assertThat(due(41))
                .as("only what nothing is known of")
                .extracting(WorkingCopy::id)
                .containsExactly("C");
        List<WorkingCopy> all = due(30);
        assertThat(all).extracting(WorkingCopy::id).as("never read first").containsExactly("C", "A", "B");
        var cancellation = new Cancellation();
        Reread begun = project.rereading()
                .read(
                        all,
                        0,
                        (done, of) -> {
                            assertThat(of).isEqualTo(3 * BYTES / 1_000_000);
                            if (done > 1.5 * BYTES / 1_000_000) { // in the middle of the second
                                cancellation.cancel();
                            }
                        },
                        cancellation);
        assertThat(begun.lines()).extracting(line -> line.copy().id()).containsExactly("C");
        assertThat(begun.left()).isEqualTo(2);
        assertThat(begun.inWords()).endsWith("; 2 are left to be read");
        assertThat(due(30)).extracting(WorkingCopy::id).containsExactly("A", "B");
        assertThat(read(30).count(Found.SAME)).isEqualTo(2);
        assertThat(due(30)).isEmpty();
    }

    @Test
    void aFileThatWasReplacedOrCannotBeReadIsNotCalledDamaged() throws Exception {
        List<WorkingCopy> due = due(0);
        Files.write(copies.resolve("A.mov"), new byte[BYTES]); // with another time
        Files.delete(copies.resolve("B.mov"));
        Reread read = project.rereading().read(due, 0, (_, _) -> {}, new Cancellation());
        assertThat(read.lines())
                .extracting(line -> line.copy().id() + " " + line.found())
                .containsExactlyInAnyOrder("A ANOTHER", "B UNREADABLE", "C FIRST");
        assertThat(read.needingALook().getFirst().words()).contains("not in its place any more");
        assertThat(states()).containsEntry("A", CopyState.SUSPECT).containsEntry("B", CopyState.MISSING);
    }

    /// Somebody made it anew between the reading and what was made of it.
    @Test
    void aCopyThatWasMadeAnewMeanwhileIsNotSuspect() throws Exception {
        flip("B", 5);
        List<WorkingCopy> due = due(0);
        WorkingCopy copy =
                due.stream().filter(each -> each.id().equals("B")).findFirst().orElseThrow();
        var place = new WorkingCopy.Place(
                BYTES, 1, 960, 540, "x", "", "anew", false, Optional.empty(), WorkingCopy.Whole.checked("anew"));
        try (Catalogue other =
                Catalogue.open(folder.resolve("project/catalogue.db"), () -> now, new Desk("line", "another"))) {
            Reread read = project.rereading()
                    .read(
                            List.of(copy),
                            0,
                            (_, _) -> other.copies().update(List.of(copy.withPlace(place))),
                            new Cancellation());
            assertThat(read.lines()).extracting(Reread.Line::found).containsExactly(Found.ANOTHER);
            assertThat(other.copies().of(List.of("B")).getFirst())
                    .extracting(WorkingCopy::state, WorkingCopy::place)
                    .containsExactly(CopyState.READY, place);
        }
    }
}
