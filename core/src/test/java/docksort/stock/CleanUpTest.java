package docksort.stock;

import static org.assertj.core.api.Assertions.assertThat;

import docksort.WithMedia;
import docksort.arrival.ClipId;
import docksort.catalogue.CopyState;
import docksort.catalogue.WorkingCopy;
import docksort.files.CopyRemoval;
import docksort.files.Trash;
import docksort.media.Fingerprint;
import docksort.run.CopyTags;
import docksort.sort.CopyKind;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/// Deleting takes copies and nothing else, whatever lies in the way.
@WithMedia
class CleanUpTest {
    private static final Fingerprint SOURCE = new Fingerprint(5_000, "0123456789abcdef0123456789abcdef");
    private static final String RECIPE = "light-prores-half";
    private static final int TREES = 10_000;

    @TempDir
    Path folder = Path.of("");

    private static Path write(Path file, int bytes) throws IOException {
        Files.createDirectories(Objects.requireNonNull(file.getParent()));
        return Files.write(file, new byte[bytes]);
    }

    /// What a copy says of itself, here as a small file beside it.
    private static void say(Path file) throws IOException {
        Files.writeString(CopyTags.besides(file), """
            {"docksort.source": "%s", "docksort.recipe": "%s"}\
            """.formatted(SOURCE, RECIPE));
    }

    private static WorkingCopy copy(Path file, long bytes) {
        return new WorkingCopy(
                file.toString(),
                new ClipId("clip"),
                CopyKind.LIGHT,
                RECIPE,
                "copies",
                file,
                CopyState.READY,
                "",
                SOURCE,
                Optional.empty(),
                new WorkingCopy.Place(bytes, 0, 1, 1, "", "", ""),
                WorkingCopy.Service.USUAL,
                0);
    }

    private static CleanUp plan(List<WorkingCopy> copies, Path root, CopyRemoval removal) {
        return CleanUp.plan(copies, Map.of("copies", root), removal, file -> CopyTags.read(CopyTags.besides(file)));
    }

    /// Each tree is built of the same hostile parts in another mixture: links out of the root, folders
    /// that are links, second names of originals, originals that bear a copy's metadata, twins in other
    /// letters, an arrival inside the folder for copies, paths that climb.
    @Test
    void nothingThatIsNotACopyIsDeletedInTenThousandTrees() throws IOException {
        var random = new Random(11);
        long deleted = 0;
        for (int tree = 0; tree < TREES; tree++) {
            deleted += oneTree(folder.resolve("tree " + tree), random);
        }
        assertThat(deleted).as("and copies are deleted").isGreaterThan(TREES / 4);
    }

    private static int oneTree(Path tree, Random random) throws IOException {
        Path root = Files.createDirectories(tree.resolve("copies"));
        Path arrival = random.nextBoolean() ? root.resolve("card") : tree.resolve("card");
        Path original = write(arrival.resolve("A.mov"), 10);
        Set<Path> copies = new HashSet<>();
        var claimed = new ArrayList<WorkingCopy>();
        int parts = 2 + random.nextInt(4);
        for (int part = 0; part < parts; part++) {
            String name = "c" + part + ".mov";
            Path file = root.resolve(name);
            switch (random.nextInt(11)) {
                case 0, 1 -> {
                    copies.add(write(file, 10));
                    say(file);
                }
                case 2 -> Files.createSymbolicLink(file, original);
                case 3 -> {
                    Files.createLink(file, original);
                    say(file);
                }
                case 4 -> {
                    Path link = root.resolve("sub" + part);
                    Files.createSymbolicLink(link, arrival);
                    file = link.resolve("A.mov");
                    say(original);
                }
                case 5 -> {
                    file = original;
                    say(original);
                }
                case 6 -> write(file, 10); // somebody's own file: it does not say that it is a copy
                case 7 -> {
                    write(file, 11); // changed since
                    say(file);
                }
                case 8 -> {
                    write(root.resolve("C" + part + ".MOV"), 10); // a twin in other letters
                    say(root.resolve("C" + part + ".MOV"));
                }
                case 9 -> {
                    file = root.resolve("../card/A.mov");
                    say(original);
                }
                default -> {
                    Files.createDirectories(file); // a folder of that name
                    say(file);
                }
            }
            claimed.add(copy(file, 10));
        }
        Set<Path> before = files(tree);
        var removal = new CopyRemoval(List.of(arrival), List.of(original));
        CleanUp plan = plan(claimed, root, removal);
        CopyRemoval.Outcome outcome = removal.remove(plan.removables(Map.of("copies", root)), Optional.empty());
        Set<Path> gone = new HashSet<>(before);
        gone.removeAll(files(tree));
        assertThat(copies).as("deleted in %s", tree).containsAll(outcome.gone());
        gone.removeAll(copies);
        copies.forEach(file -> gone.remove(CopyTags.besides(file)));
        assertThat(gone).as("lost in %s", tree).isEmpty();
        assertThat(outcome.gone()).as("every true copy goes").hasSameSizeAs(copies);
        delete(tree);
        return copies.size();
    }

    private static Set<Path> files(Path tree) throws IOException {
        try (Stream<Path> all = Files.walk(tree)) {
            return new HashSet<>(all.filter(file -> !Files.isDirectory(file, LinkOption.NOFOLLOW_LINKS))
                    .toList());
        }
    }

    private static void delete(Path tree) throws IOException {
        try (Stream<Path> all = Files.walk(tree)) {
            for (Path each : all.sorted(Comparator.reverseOrder()).toList()) {
                Files.delete(each);
            }
        }
    }

    @Test
    void aDryRunNamesEveryFileItsBytesAndWhyOthersStay() throws IOException {
        Path root = folder.resolve("copies");
        Path good = write(root.resolve("light/A.mxf"), 100);
        say(good);
        long sidecar = Files.size(CopyTags.besides(good));
        Path strange = write(root.resolve("light/B.mxf"), 100);
        CleanUp plan = plan(List.of(copy(good, 100), copy(strange, 100)), root, new CopyRemoval(List.of(), List.of()));
        assertThat(plan.bytes().bytes()).isEqualTo(100 + sidecar);
        assertThat(plan.lines())
                .satisfiesExactly(
                        line -> assertThat(line.files()).containsExactly(good, CopyTags.besides(good)),
                        line -> assertThat(line.refusal())
                                .contains("the file itself does not say that it is this copy"));
        assertThat(files(root)).as("nothing happened yet").hasSize(3);
    }

    /// freedesktop.org Trash specification 1.0: the file under `files`, where it came from under `info`.
    @Test
    void theTrashKeepsTheFileAndWhereItCameFrom() throws IOException {
        Path root = folder.resolve("copies");
        Path good = write(root.resolve("a space/A.mov"), 7);
        say(good);
        var removal = new CopyRemoval(List.of(), List.of());
        Path trash = folder.resolve("Trash");
        CopyRemoval.Outcome outcome = removal.remove(
                plan(List.of(copy(good, 7)), root, removal).removables(Map.of("copies", root)),
                Optional.of(Trash.at(trash)));
        assertThat(outcome.left()).isEmpty();
        assertThat(trash.resolve("files/A.mov")).hasSize(7);
        assertThat(Files.readString(trash.resolve("info/A.mov.trashinfo")))
                .startsWith("[Trash Info]\nPath=" + good.toString().replace(" ", "%20") + "\nDeletionDate=");
        assertThat(files(root)).isEmpty();
    }
}
